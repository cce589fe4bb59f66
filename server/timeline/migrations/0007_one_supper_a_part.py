import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("timeline", "0006_supper_owns_its_parts")]

    operations = [
        migrations.AlterField(
            model_name="supper",
            name="dough",
            field=models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="supper", to="dough.dough"),
        ),
        migrations.AlterField(
            model_name="supper",
            name="plan",
            field=models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="supper", to="plans.plan"),
        ),
    ]
