/** The form of a device profile as data: each field with its help and the range that makes sense. */

import type { FieldSpec } from "./profile-values";

const choices = (...values: string[]): [string, string][] => values.map((value) => [value, value]);

const KINDS: [string, string][] = [
  ["phone", "phone"],
  ["tablet", "tablet"],
  ["tv", "TV"],
  ["player", "box or stick under the TV"],
  ["disc_player", "disc player"],
  ["frame", "picture frame"],
  ["pocket", "pocket player"],
  ["console", "games console"],
  ["computer", "computer"],
  ["projector", "projector"],
  ["car", "car"],
  ["browser", "web browser"],
  ["sound", "sound only"],
];

export const IDENTITY: FieldSpec[] = [
  { key: "name", label: "Model", help: "What it is called on the box.", kind: "text" },
  {
    key: "kind",
    label: "Kind",
    help: "Decides how large a picture is watched.",
    kind: "choice",
    choices: KINDS,
  },
  { key: "year", label: "Year", help: "When it was made, about.", kind: "number", range: [1995, 2100] },
  { key: "about", label: "About", help: "A sentence for the list.", kind: "text" },
];

export const SCREEN: FieldSpec[] = [
  {
    key: "width",
    label: "Width",
    help: "Pixels of its own screen, held for films.",
    kind: "number",
    unit: "pixels",
    range: [64, 16384],
  },
  {
    key: "height",
    label: "Height",
    help: "Leave both empty where it has no screen.",
    kind: "number",
    unit: "pixels",
    range: [64, 8640],
  },
  {
    key: "diagonal_inch",
    label: "Diagonal",
    help: "Only for showing its size.",
    kind: "number",
    unit: "inches",
    range: [1, 200],
  },
];

export const CONTAINER: FieldSpec[] = [
  {
    key: "format",
    label: "Container",
    help: "The kind of file; the first is taken where several would do.",
    kind: "choice",
    choices: [
      ["mp4", "MP4"],
      ["matroska", "Matroska"],
      ["webm", "WebM"],
      ["avi", "AVI"],
      ["asf", "ASF"],
      ["mpeg_ts", "MPEG-TS"],
      ["mpeg_ps", "MPEG-PS"],
      ["mp3", "MP3"],
      ["flac", "FLAC"],
      ["ogg", "Ogg"],
    ],
  },
  {
    key: "extension",
    label: "Extension",
    help: "The end of the name by which it finds files.",
    kind: "text",
  },
];

export const VIDEO: FieldSpec[] = [
  {
    key: "codec",
    label: "Codec",
    help: "What it decodes.",
    kind: "choice",
    choices: [
      ["h264", "H.264"],
      ["hevc", "HEVC"],
      ["vp9", "VP9"],
      ["av1", "AV1"],
      ["mpeg4", "MPEG-4 part 2"],
      ["mpeg2video", "MPEG-2"],
      ["wmv2", "WMV"],
    ],
  },
  {
    key: "profiles",
    label: "Profiles",
    help: "From plain to capable, as in: baseline, main, high.",
    kind: "list",
  },
  {
    key: "max_level",
    label: "Level",
    help: "The highest it decodes, as in 4.1; it bounds size, rate and memory.",
    kind: "text",
  },
  {
    key: "max_width",
    label: "Widest",
    help: "The widest picture.",
    kind: "number",
    unit: "pixels",
    range: [64, 16384],
  },
  {
    key: "max_height",
    label: "Highest",
    help: "The most lines.",
    kind: "number",
    unit: "lines",
    range: [64, 8640],
  },
  { key: "max_frame_rate", label: "Frame rate", help: "The most frames a second.", kind: "text" },
  {
    key: "max_bitrate_bps",
    label: "Bitrate",
    help: "Empty: the level alone bounds it.",
    kind: "number",
    unit: "Mb/s",
    scale: 1e6,
    range: [0.1, 400],
  },
  {
    key: "max_buffer_bits",
    label: "Buffer",
    help: "Empty: the level alone bounds it.",
    kind: "number",
    unit: "Mbit",
    scale: 1e6,
    range: [0.1, 800],
  },
  {
    key: "max_reference_frames",
    label: "References",
    help: "Frames it keeps to look back at.",
    kind: "number",
    range: [1, 16],
  },
  { key: "bit_depths", label: "Bit depths", help: "8, or 8, 10.", kind: "list" },
  { key: "dynamic_ranges", label: "HDR", help: "hdr10, hlg, or none.", kind: "list" },
  { key: "interlaced", label: "Interlaced", help: "Shows fields without combs.", kind: "yes" },
  {
    key: "non_square_pixels",
    label: "Odd pixels",
    help: "Stretches non-square pixels as it should.",
    kind: "yes",
  },
  {
    key: "variable_frame_rate",
    label: "Changing rate",
    help: "Shows pictures that come at changing distances, as phones record them.",
    kind: "yes",
  },
];

export const AUDIO: FieldSpec[] = [
  {
    key: "codec",
    label: "Codec",
    help: "What it decodes.",
    kind: "choice",
    choices: [
      ["aac", "AAC"],
      ["mp3", "MP3"],
      ["ac3", "AC-3"],
      ["eac3", "E-AC-3"],
      ["opus", "Opus"],
      ["vorbis", "Vorbis"],
      ["flac", "FLAC"],
      ["mp2", "MP2"],
      ["wmav2", "WMA"],
      ["dts", "DTS"],
      ["pcm_s16le", "PCM"],
    ],
  },
  { key: "max_channels", label: "Channels", help: "2 is stereo, 6 is 5.1.", kind: "number", range: [1, 8] },
  { key: "sample_rates", label: "Sample rates", help: "In Hz, as in 44100, 48000.", kind: "list" },
  {
    key: "max_bitrate_bps",
    label: "Bitrate",
    help: "Empty: no bound is known.",
    kind: "number",
    unit: "kb/s",
    scale: 1e3,
    range: [8, 10000],
  },
];

export const SUBTITLE: FieldSpec[] = [
  {
    key: "form",
    label: "Form",
    help: "How they come to it.",
    kind: "choice",
    choices: [
      ["text_track", "text track"],
      ["picture_track", "picture track"],
      ["text_file", "text file beside"],
    ],
  },
  { key: "format", label: "Format", help: "As in mov_text, subrip, webvtt.", kind: "text" },
];

export const LIMITS: FieldSpec[] = [
  {
    key: "file_system",
    label: "File system",
    help: "FAT32 takes no file over 4.29 GB.",
    kind: "choice",
    choices: choices("fat32", "exfat", "ntfs", "posix"),
  },
  {
    key: "max_file_bytes",
    label: "Largest file",
    help: "Its own limit for one file.",
    kind: "number",
    unit: "GB",
    scale: 1e9,
    range: [0.01, 100000],
  },
  {
    key: "storage_bytes",
    label: "Storage",
    help: "All there is for films.",
    kind: "number",
    unit: "GB",
    scale: 1e9,
    range: [0.01, 100000],
  },
];
