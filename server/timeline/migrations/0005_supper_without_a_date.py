from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("timeline", "0004_supper_made_of")]

    operations = [
        *(migrations.AlterField(model_name="supper", name=name, field=models.JSONField(blank=True, null=True)) for name in ("words", "ask", "result")),
        migrations.AlterField(model_name="supper", name="serve_at", field=models.DateTimeField(blank=True, null=True)),
    ]
