"""Where a hearth's sensor stops its full top element."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("kitchen", "0005_calibration_spread")]

    operations = [
        migrations.AddField(model_name="hearth", name="top_stop_over_k", field=models.FloatField(default=25.0)),
    ]
