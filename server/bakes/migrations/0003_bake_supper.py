from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("bakes", "0002_rows")]

    operations = [migrations.AddField(model_name="bake", name="supper", field=models.JSONField(blank=True, null=True))]
