from django.db import migrations


def into_one(apps, schema_editor):
    """What plans use of vises and chucks, they use of holdings."""
    PlanUse = apps.get_model("jobs", "PlanUse")
    PlanUse.objects.filter(kind__in=("vises", "chucks")).update(kind="holdings")


class Migration(migrations.Migration):
    dependencies = [("jobs", "0002_mend"), ("library", "0003_one_table_of_holdings")]
    operations = [migrations.RunPython(into_one, migrations.RunPython.noop)]
