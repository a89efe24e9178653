"""The shapes of the Shelf's documents."""

from __future__ import annotations

from rest_framework import serializers

from rheon.server.api.schema import DRIVE_STATES, ROLES

from .models import SourceState


class ShareSerializer(serializers.Serializer):
    title = serializers.IntegerField()
    from_s = serializers.FloatField()
    to_s = serializers.FloatField()


class GapSerializer(serializers.Serializer):
    from_s = serializers.FloatField()
    to_s = serializers.FloatField()


class TitleOutlineSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    number = serializers.IntegerField()
    name = serializers.CharField()
    duration_s = serializers.FloatField()
    role = serializers.ChoiceField(choices=ROLES)
    size_bytes = serializers.IntegerField()
    chapters = serializers.ListField(child=serializers.FloatField())
    reason = serializers.CharField()
    taken = serializers.CharField()
    taken_together = serializers.CharField()
    shares = ShareSerializer(many=True)
    gaps = GapSerializer(many=True)
    fault = serializers.CharField(allow_null=True)
    part_of = serializers.IntegerField(allow_null=True)


class ProblemSerializer(serializers.Serializer):
    code = serializers.CharField()
    message = serializers.CharField()
    title = serializers.IntegerField(allow_null=True)


class FilmFolderSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    path = serializers.CharField()
    found = serializers.IntegerField()
    looking = serializers.BooleanField()
    present = serializers.BooleanField()


class ProposalSerializer(serializers.Serializer):
    """A folder that seems to hold films: ``found`` of them were counted, and ``more`` says that it went on."""

    path = serializers.CharField()
    name = serializers.CharField()
    mounted = serializers.BooleanField()
    found = serializers.IntegerField()
    more = serializers.BooleanField()


class FilmFoldersSerializer(serializers.Serializer):
    folders = FilmFolderSerializer(many=True)
    proposals = ProposalSerializer(many=True)


class SourceSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    path = serializers.CharField()
    name = serializers.CharField()
    label = serializers.CharField()
    kind = serializers.CharField()
    form = serializers.CharField()
    size_bytes = serializers.IntegerField()
    state = serializers.ChoiceField(choices=SourceState)
    at_title = serializers.IntegerField()
    title_count = serializers.IntegerField()
    error_code = serializers.CharField()
    error_message = serializers.CharField()
    problems = ProblemSerializer(many=True)
    drive = serializers.IntegerField(allow_null=True)
    titles = TitleOutlineSerializer(many=True)


class FactSerializer(serializers.Serializer):
    topic = serializers.CharField()
    text = serializers.CharField()


class ChapterSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    start_s = serializers.FloatField()
    name = serializers.CharField(allow_null=True)


class AudioSerializer(serializers.Serializer):
    index = serializers.IntegerField()
    language = serializers.CharField()
    form = serializers.CharField()
    purpose = serializers.CharField()
    name = serializers.CharField(allow_null=True)
    heard = serializers.CharField()


class SubtitleSerializer(serializers.Serializer):
    index = serializers.IntegerField()
    language = serializers.CharField()
    form = serializers.CharField()
    found = serializers.CharField()


class BordersSerializer(serializers.Serializer):
    top = serializers.FloatField()
    bottom = serializers.FloatField()
    left = serializers.FloatField()
    right = serializers.FloatField()
    sure = serializers.FloatField()


class TitleSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    source_id = serializers.IntegerField()
    source_name = serializers.CharField()
    number = serializers.IntegerField()
    name = serializers.CharField()
    duration_s = serializers.FloatField()
    size_bytes = serializers.IntegerField()
    role = serializers.ChoiceField(choices=ROLES)
    role_by_hand = serializers.BooleanField()
    reasons = serializers.ListField(child=serializers.CharField())
    fault = serializers.CharField(allow_null=True)
    gaps = GapSerializer(many=True)
    part_of = serializers.IntegerField(allow_null=True)
    angle = serializers.IntegerField()
    angles = serializers.IntegerField()
    looked_at = serializers.ChoiceField(choices=["yes", "waiting", "failed"])
    picture = FactSerializer(many=True)
    borders = BordersSerializer(allow_null=True)
    tags = FactSerializer(many=True)
    has_artwork = serializers.BooleanField()
    frames = serializers.IntegerField()
    strip = serializers.IntegerField()
    chapters = ChapterSerializer(many=True)
    audio = AudioSerializer(many=True)
    subtitles = SubtitleSerializer(many=True)


class NewSourceSerializer(serializers.Serializer):
    path = serializers.CharField(max_length=4096, trim_whitespace=False)


class EntrySerializer(serializers.Serializer):
    name = serializers.CharField()
    path = serializers.CharField()
    kind = serializers.ChoiceField(choices=["folder", "disc", "image", "file"])
    size_bytes = serializers.IntegerField(allow_null=True)


class FolderSerializer(serializers.Serializer):
    path = serializers.CharField(allow_null=True)
    parent = serializers.CharField(allow_null=True)
    entries = EntrySerializer(many=True)


class NewNameSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=200, allow_blank=True)


class TitleChangeSerializer(serializers.Serializer):
    """What is not named stays as it is; an empty name or a ``null`` role gives back what was read."""

    name = serializers.CharField(max_length=220, allow_blank=True, required=False)
    role = serializers.ChoiceField(choices=ROLES, allow_null=True, required=False)
    angle = serializers.IntegerField(min_value=1, required=False)


class RangeSerializer(serializers.Serializer):
    first = serializers.IntegerField(min_value=1)
    last = serializers.IntegerField(min_value=1)


class PartsSerializer(serializers.Serializer):
    ranges = RangeSerializer(many=True, allow_empty=True)


class DriveSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    name = serializers.CharField()
    state = serializers.ChoiceField(choices=DRIVE_STATES)
    label = serializers.CharField(allow_null=True)
    speed_bytes_s = serializers.IntegerField(allow_null=True)
    discs = serializers.ListField(child=serializers.CharField())
    source_id = serializers.IntegerField(allow_null=True)


class DiscSerializer(serializers.Serializer):
    disc = serializers.CharField(max_length=300)
