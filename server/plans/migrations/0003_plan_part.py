from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("plans", "0002_plan_version")]

    operations = [migrations.AddField(model_name="plan", name="part", field=models.BooleanField(default=False))]
