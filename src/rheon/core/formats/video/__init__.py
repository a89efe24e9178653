"""The registry of video codecs: one file for each that Rheon makes; what is only read has a line here."""

from dataclasses import replace

from ..codec import VideoCodec
from ..hardware import hardware_encoders
from .av1 import AV1
from .h264 import H264
from .hevc import HEVC
from .mpeg2 import MPEG2
from .mpeg4 import MPEG4
from .vp9 import VP9
from .wmv import WMV

ONLY_READ = (
    VideoCodec(name="mpeg1video", label="MPEG-1", standard="ISO/IEC 11172-2", source_bits=0.30),
    VideoCodec(name="mjpeg", label="Motion JPEG", source_bits=2.0),
    VideoCodec(name="vc1", label="VC-1", standard="SMPTE 421M"),
    VideoCodec(name="vp8", label="VP8", standard="RFC 6386"),
    VideoCodec(name="theora", label="Theora"),
    VideoCodec(name="wmv3", label="WMV 9"),
    VideoCodec(name="flv1", label="Sorenson H.263"),
    VideoCodec(name="h263", label="H.263", standard="ITU-T H.263"),
    VideoCodec(name="dvvideo", label="DV", standard="IEC 61834"),
)
VIDEO_CODECS = {
    codec.name: replace(codec, encoders=(*codec.encoders, *hardware_encoders(codec.name)))
    for codec in (H264, HEVC, MPEG4, VP9, AV1, MPEG2, WMV, *ONLY_READ)
}
