"""Which kinds of file the engine may open, each with its reason; and which point elsewhere and never may.

Held to one rule: everything that is played lies in the one file. A kind that names other files or addresses is not
here, even where films come in it.
"""

from __future__ import annotations

FILMS = {
    "3gp": "phones", "3g2": "phones", "mov": "MP4 and its kin", "mp4": "MP4", "m4a": "MP4 with sound only",
    "mj2": "Motion JPEG 2000", "matroska": "Matroska", "webm": "WebM", "avi": "AVI", "asf": "ASF, WMV and WMA",
    "asf_o": "ASF, read the older way", "flv": "Flash video", "live_flv": "Flash video as it is sent",
    "kux": "a kind of Flash video", "mpeg": "MPEG program streams", "mpegts": "MPEG transport streams",
    "mpegtsraw": "MPEG transport streams, raw", "mpegvideo": "MPEG-1 and 2 alone", "m4v": "MPEG-4 alone",
    "h261": "H.261 alone", "h263": "H.263 alone", "h264": "H.264 alone", "hevc": "HEVC alone", "obu": "AV1 alone",
    "av1": "AV1 alone", "ivf": "VP8, VP9 and AV1 in their plain frame", "vc1": "VC-1 alone", "vc1test": "VC-1 alone",
    "cavsvideo": "AVS alone", "dirac": "Dirac alone", "dnxhd": "DNxHD alone", "mjpeg": "Motion JPEG alone",
    "rm": "RealMedia", "ivr": "RealMedia recordings", "ogg": "Ogg", "nut": "NUT", "mxf": "MXF", "gxf": "GXF",
    "dv": "DV from camcorders", "wtv": "recordings of TV on a PC", "ty": "set-top boxes",
    "pva": "recordings of TV cards", "nuv": "recordings of home servers", "nsv": "streamed video, kept",
    "dhav": "surveillance cameras", "lvf": "surveillance cameras", "bink": "films in games", "smk": "films in games",
    "roq": "films in games", "film_cpk": "films in games", "vmd": "films in games", "wc3movie": "films in games",
    "flic": "animations", "gif": "animations", "apng": "animations", "swf": "animations with video inside",
    "yuv4mpegpipe": "pictures without coding", "avs": "films in games",
}  # fmt: skip
SOUNDS = {
    "aac": "AAC alone", "loas": "AAC in broadcasts", "ac3": "AC-3 alone", "eac3": "E-AC-3 alone", "dts": "DTS",
    "dtshd": "DTS-HD alone", "truehd": "TrueHD alone", "mlp": "MLP alone", "mp3": "MP3", "flac": "FLAC", "wav": "WAV",
    "w64": "long WAV", "aiff": "AIFF", "au": "AU", "caf": "CAF", "voc": "VOC", "wv": "WavPack", "ape": "APE",
    "tak": "TAK", "tta": "True Audio", "mpc": "Musepack", "mpc8": "Musepack 8", "dsf": "DSD", "iff": "DSDIFF",
    "shn": "Shorten", "oma": "ATRAC", "aea": "ATRAC1", "amr": "speech on phones", "amrnb": "speech on phones",
    "amrwb": "speech on phones", "gsm": "speech", "qcp": "speech on phones", "sox": "SoX", "ircam": "IRCAM",
    "pvf": "PVF", "avr": "AVR", "nistsphere": "speech collections", "ast": "sound in games", "xwma": "sound in games",
    "vqf": "TwinVQ", "spdif": "what comes over a digital cable", "sbc": "SBC", "aptx": "aptX",
}  # fmt: skip
WORDS = {"srt": "SubRip", "ass": "ASS and SSA", "webvtt": "WebVTT"}
READABLE = ",".join((*FILMS, *SOUNDS, *WORDS))

POINTS_ELSEWHERE = frozenset(
    {
        "concat", "hls", "dash", "webm_dash_manifest", "sdp", "rtsp", "rtp", "imf", "image2", "image2pipe", "avisynth",
        "vapoursynth", "mlv", "vobsub", "lavfi", "ffmetadata",
    }
)  # fmt: skip
"""Lists, descriptions and scripts: what they play lies in other files or at addresses."""
