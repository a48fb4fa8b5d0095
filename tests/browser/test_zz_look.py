from tests.browser.conftest import *
def test_look(sign_in):
    person = sign_in("planner"); page = person.page
    n = copy_of_demo(person, "L-1")
    page.set_viewport_size({"width":1280,"height":800})
    r=person.api("POST", f"/plans/{n}/edits", revision=2, edits=[{"do":"add_station","setup":"s1","id":"b","about":"x"},{"do":"load","station":"b","parts":2},{"do":"load","station":"st1","parts":2},{"do":"change","on":"station:st1","fields":{"offset_each":True}}])
    page.goto("/jobs/L-1/setups")
    page.get_by_role("button", name="Load", exact=True).click()
    page.get_by_role("group", name="Table of Heron from above").wait_for()
    page.wait_for_timeout(4000)
    page.screenshot(path="/tmp/w/load2.png")
    page.goto("/jobs/L-1/setups")
    person.api("POST", f"/plans/{n}/edits", revision=3, edits=[{"do":"change","on":"station:b","fields":{"at":{"kind":"spots","at_mm":[[-100,130],[400,130]]}}}])
    page.reload()
    page.get_by_role("button", name="Load", exact=True).click()
    page.get_by_role("button", name="in", exact=True).click()
    page.get_by_role("group", name="Table of Heron from above").wait_for()
    page.wait_for_timeout(5000)
    page.screenshot(path="/tmp/w/load3.png")
