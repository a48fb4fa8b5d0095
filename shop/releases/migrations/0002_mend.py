import django.db.models.deletion
from django.db import migrations, models


def carry_over(apps, schema_editor):
    """A PDF becomes a row of its own; a release remembers title and revision letter as they were when it could still be told."""
    Sheet, Paper, Release = (apps.get_model("releases", name) for name in ("Sheet", "Paper", "Release"))
    for sheet in Sheet.objects.all():
        for paper, pdf in (("A4", sheet.pdf), ("Letter", sheet.pdf_letter)):
            if pdf:
                Paper.objects.create(sheet=sheet, paper=paper, pdf=pdf)
    for release in Release.objects.select_related("plan__job"):
        release.title, release.revision_letter = release.plan.job.title, release.plan.job.revision
        release.save()


class Migration(migrations.Migration):

    dependencies = [
        ('releases', '0001_initial'),
        ('jobs', '0002_mend'),
    ]

    operations = [
        migrations.AddField(
            model_name='release',
            name='revision_letter',
            field=models.CharField(blank=True, max_length=10),
        ),
        migrations.AddField(
            model_name='release',
            name='title',
            field=models.CharField(blank=True, max_length=120),
        ),
        migrations.CreateModel(
            name='Paper',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('paper', models.CharField(max_length=10)),
                ('pdf', models.CharField(max_length=64)),
                ('sheet', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='papers', to='releases.sheet')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('sheet', 'paper'), name='paper_once')],
            },
        ),
        migrations.RunPython(carry_over, migrations.RunPython.noop),
        migrations.RemoveField(
            model_name='sheet',
            name='pdf',
        ),
        migrations.RemoveField(
            model_name='sheet',
            name='pdf_letter',
        ),
    ]
