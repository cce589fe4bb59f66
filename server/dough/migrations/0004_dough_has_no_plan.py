from django.db import migrations


class Migration(migrations.Migration):
    """A dough and the plan it was for are parts of one supper since."""

    dependencies = [("dough", "0003_dough_part"), ("timeline", "0006_supper_owns_its_parts")]

    operations = [migrations.RemoveField(model_name="dough", name="plan")]
