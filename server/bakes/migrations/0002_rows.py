"""Several pizzas of one bake, one after another or two at once."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("bakes", "0001_initial")]

    operations = [
        migrations.AddField("bake", name, models.PositiveSmallIntegerField(default=1)) for name in ("pizzas", "together", "pizza")
    ]
