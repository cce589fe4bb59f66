"""Bakes under way and done."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('kitchen', '0006_top_stop'),
        ('plans', '0002_plan_version'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Bake',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('created_at', models.DateTimeField(auto_now_add=True)),
                ('updated_at', models.DateTimeField(auto_now=True)),
                ('deleted_at', models.DateTimeField(blank=True, null=True)),
                ('version', models.PositiveIntegerField(default=1)),
                ('name', models.CharField(max_length=80)),
                ('sentence', models.JSONField()),
                ('ask', models.JSONField()),
                ('engine', models.CharField(max_length=20)),
                ('heat_on_at', models.DateTimeField()),
                ('launched_at', models.DateTimeField(blank=True, null=True)),
                ('pulled_at', models.DateTimeField(blank=True, null=True)),
                ('ended_at', models.DateTimeField(blank=True, null=True)),
                ('hearth', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='kitchen.hearth')),
                ('owner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('plan', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='plans.plan')),
            ],
            options={
                'verbose_name': 'bake',
                'ordering': ['-heat_on_at', '-id'],
                'constraints': [models.UniqueConstraint(condition=models.Q(('deleted_at__isnull', True), ('ended_at__isnull', True)), fields=('hearth',), name='one_bake_under_way_a_hearth')],
            },
        ),
    ]
