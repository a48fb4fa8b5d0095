"""Lines of a drawing: read, told, placed in the stage, refused with nothing lost."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from .conftest import copy_of_demo
from .test_workspace import until

FRAME = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40">'
    '<path d="M0 0 H60"/><path d="M60 0.03 V40 H0 V0"/><text>rev B</text></svg>'
)


def test_a_drawing_s_lines_are_engraved_where_they_are_placed(sign_in):
    planner = sign_in("planner")
    plan, page = copy_of_demo(planner, "L-7"), planner.page
    engrave = {
        "do": "add_operation",
        "setup": "s2",
        "operation": {
            "id": "mark",
            "kind": "engrave",
            "tool": "t11",
            "on": {"kind": "text", "text": "A"},
            "depth_mm": 0.3,
        },
    }
    planner.api("POST", f"/plans/{plan}/edits", revision=2, edits=[engrave])
    page.goto("/jobs/L-7/setups?op=mark")
    drawing = page.get_by_label("Drawing of lines")

    def read(name: str, content: str) -> None:
        drawing.set_input_files(
            {"name": name, "mimeType": "image/svg+xml", "buffer": content.encode()}
        )

    read("notes.svg", "<svg")
    expect(page.get_by_role("alert").filter(has_text="it must be an SVG drawing")).to_be_visible()
    expect(page.get_by_label("Text", exact=True)).to_have_value("A")  # nothing is lost
    read("frame.svg", FRAME)
    expect(page.get_by_text("1 line with 5 corners, 1 closed")).to_be_visible()
    expect(page.get_by_text("Drawn in mm.")).to_contain_text("were joined. Left out: 1 text.")
    expect(page.get_by_role("group", name="cut.in-air")).to_be_visible()  # half of it is beside
    for label, value in (("Drawing’s zero at X", "-30"), ("Y", "20")):
        field = page.get_by_label(label, exact=True)
        field.fill(value)
        field.press("Enter")

    def placed() -> bool:
        seen = planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()
        on = seen["plan"]["setups"][1]["operations"][-1]["on"]
        return (on["x_mm"], on["y_mm"]) == (-30, 20)

    until(page, placed)
    expect(page.get_by_role("group", name="cut.in-air")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("Engrave frame.svg")).first).to_be_visible()
