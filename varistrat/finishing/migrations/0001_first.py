"""Baths, and what was etched in them."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('builds', '0003_photos_and_odd'),
        ('shop', '0002_from_users'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Bath',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('what', models.CharField(max_length=20)),
                ('strength', models.FloatField()),
                ('temperature', models.FloatField()),
                ('litres', models.FloatField()),
                ('mixed', models.DateField()),
                ('gone', models.DateField(null=True)),
                ('note', models.CharField(blank=True, max_length=400)),
                ('shop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='baths', to='shop.shop')),
            ],
            options={
                'ordering': ['gone', '-mixed', '-id'],
            },
        ),
        migrations.CreateModel(
            name='BathUse',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('uid', models.UUIDField()),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('title', models.CharField(max_length=200)),
                ('minutes', models.FloatField()),
                ('grams', models.FloatField()),
                ('elements', models.JSONField(default=dict)),
                ('bath', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='uses', to='finishing.bath')),
                ('build', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='bath_uses', to='builds.build')),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-id'],
                'constraints': [models.UniqueConstraint(fields=('bath', 'uid'), name='bath_use_once'), models.CheckConstraint(condition=models.Q(('grams__gte', 0)), name='bath_use_takes_up')],
            },
        ),
    ]
