from django.db import migrations

KINDS = {"vises": "vise", "chucks": "chuck"}


def into_one(apps, schema_editor):
    """Vises and chucks become holdings; one whose key is taken keeps it with its kind behind it."""
    Item = apps.get_model("library", "Item")
    Stamp = apps.get_model("library", "Stamp")
    taken = set(Item.objects.filter(kind="holdings").values_list("key", flat=True))
    for table, kind in KINDS.items():
        for item in Item.objects.filter(kind=table):
            item.key = item.key if item.key not in taken else f"{item.key[:50]}-{kind}"
            taken.add(item.key)
            item.kind, item.data = "holdings", {**item.data, "kind": kind, "key": item.key}
            item.save()
    for row in Stamp.objects.all():
        row.number += 1
        row.save()


class Migration(migrations.Migration):
    dependencies = [("library", "0002_mend")]
    operations = [migrations.RunPython(into_one, migrations.RunPython.noop)]
