from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("dough", "0002_dough_dosed_at")]

    operations = [migrations.AddField(model_name="dough", name="part", field=models.BooleanField(default=False))]
