from django.db import migrations


class Migration(migrations.Migration):
    """Kept answers are the app `work`'s now; they are worked out again."""

    dependencies = [("match", "0001_initial")]

    operations = [migrations.DeleteModel(name="KeptAnswer")]
