import { open, stat } from 'node:fs/promises';
import { z } from 'zod';
import { colourFieldOfView, DepthRig } from '@merry-shadow/core/camera/depth-rig';
import { safeInput } from './media-safety';
import { rateByTimes } from './rate-by-times';
import { runMediaTool } from './run-media-tool';

/** What is known of a video file before it is used. Sizes are those of the upright picture. */
export interface ClipFacts {
  width: number;
  height: number;
  /** Frames in a second, 1 … 240. */
  rate: number;
  seconds: number;
  frames: number;
  codec: string;
  /** Which stream of the file is the video: cover pictures are video streams, too. */
  stream: number;
  /** How the file keeps its pixels, in ffmpeg's words. */
  pixels: string;
  /** The transfer curve of its brightness, in ffmpeg's words; 'unknown' where the file does not tell. */
  transfer: string;
  /** Bits that the file spends on a pixel of a frame, as H.264 would need them. */
  bitsPerPixel: number;
  hasSound: boolean;
  /** Frames lie at even distances in time. */
  even: boolean;
  /** Clockwise turn that brings the stored picture upright, degrees. */
  rotation: number;
  /** Across the long side of the picture, degrees, where the file tells the lens; null elsewhere. */
  fieldOfView: number | null;
  /** What a depth camera saw, as a video of its own in the same file, with how both cameras lie to each other; null where there is none. */
  depth: DepthTrack | null;
}

/** A video of millimetres in a file. */
export interface DepthTrack {
  stream: number;
  width: number;
  height: number;
  /** null where depth was taken through the picture's own lens. */
  rig: DepthRig | null;
}

/** Footage that can't be used; the message is a sentence for the person who brought it. */
export class FootageError extends Error {
  override name = 'FootageError';
}

const Stream = z.looseObject({
  index: z.number(),
  codec_type: z.string().optional(),
  codec_name: z.string().optional(),
  pix_fmt: z.string().optional(),
  bit_rate: z.string().optional(),
  color_transfer: z.string().optional(),
  width: z.number().optional(),
  height: z.number().optional(),
  avg_frame_rate: z.string().optional(),
  r_frame_rate: z.string().optional(),
  duration: z.string().optional(),
  start_time: z.string().optional(),
  nb_frames: z.string().optional(),
  disposition: z.looseObject({ attached_pic: z.number().optional() }).optional(),
  side_data_list: z.array(z.looseObject({ rotation: z.number().optional() })).optional(),
  tags: z.record(z.string(), z.unknown()).optional(),
});
const Probe = z.looseObject({
  streams: z.array(Stream).default([]),
  format: z
    .looseObject({ duration: z.string().optional(), tags: z.record(z.string(), z.unknown()).optional() })
    .default({}),
});

/** Codecs of single pictures; a video may be made of them, too. */
const STILL_CODECS = new Set(['mjpeg', 'png', 'bmp', 'webp', 'tiff']);

/** How many times more bits H.264 needs for the same picture. */
const AGAINST_H264: Record<string, number> = { hevc: 1.7, av1: 2, vp9: 1.5, mpeg4: 0.6, mjpeg: 0.15, gif: 0.1 };

function ratio(text: string | undefined): number {
  const [a, b] = (text ?? '').split('/').map(Number);
  return b ? a / b : a || 0;
}

const isRate = (rate: number): boolean => rate >= 1 && rate <= 240;

/**
 * Looks into a video file with ffprobe.
 * @throws FootageError with a sentence when it is no readable video.
 */
export async function probeClip(path: string): Promise<ClipFacts> {
  const file = await stat(path).catch(() => null);
  if (!file) throw new FootageError('The file is not there.');
  if (file.isDirectory()) throw new FootageError('This is a folder, not a video file.');
  if (file.size === 0) throw new FootageError('The file is empty.');
  const result = await runMediaTool(
    'ffprobe',
    ['-v', 'error', '-show_format', '-show_streams', '-of', 'json', ...safeInput(path)],
    { seconds: 30 },
  );
  if (result.timedOut) throw new FootageError('The file could not be read within 30 seconds.');
  const parsed = Probe.safeParse(safeJson(result.stdout));
  if (result.code !== 0 || !parsed.success || parsed.data.streams.length === 0)
    throw new FootageError('This file is no video that can be read. It may be damaged, or not a video at all.');
  const { streams, format } = parsed.data;
  const pictures = streams.filter((stream) => stream.codec_type === 'video' && !stream.disposition?.attached_pic);
  // A cover is a video stream, too, often the first one; some files do not mark it as what it is.
  const colours = pictures.filter((stream) => !/^gray16/.test(stream.pix_fmt ?? ''));
  const video = colours.find((stream) => !STILL_CODECS.has(stream.codec_name ?? '')) ?? colours.at(0) ?? pictures.at(0);
  if (!video)
    throw new FootageError(
      streams.some((stream) => stream.codec_type === 'audio')
        ? 'The file holds only sound, no picture.'
        : 'The file holds no picture.',
    );
  const { width = 0, height = 0 } = video;
  if (width < 32 || height < 32)
    throw new FootageError(`The picture is only ${width} × ${height} pixels; at least 32 × 32 are needed.`);
  if (width > 8192 || height > 8192)
    throw new FootageError(`The picture is ${width} × ${height} pixels; up to 8192 × 8192 can be read.`);
  const depth = depthTrack(
    pictures.filter((stream) => stream !== video),
    format.tags,
  );
  const rotation =
    ((-(video.side_data_list?.find((item) => item.rotation !== undefined)?.rotation ?? 0) % 360) + 360) % 360;
  const average = ratio(video.avg_frame_rate);
  const told = [average, ratio(video.r_frame_rate)].find(isRate);
  const rate = told ?? (await rateByTimes(path, video.index));
  const seconds = Number(video.duration ?? format.duration ?? 0) || Number(video.nb_frames ?? 0) / (rate || 1);
  if (!isRate(rate))
    throw new FootageError("The frame rate of the file can't be told; it must lie between 1 and 240 frames a second.");
  if (!(seconds > 0)) throw new FootageError('The file has a beginning but no frames; it is probably cut off.');
  const turned = rotation % 180 === 90;
  return {
    width: turned ? height : width,
    height: turned ? width : height,
    rate,
    seconds,
    frames: Math.max(1, Math.round(seconds * rate)),
    codec: video.codec_name ?? 'unknown',
    stream: video.index,
    pixels: video.pix_fmt ?? 'unknown',
    transfer: video.color_transfer ?? 'unknown',
    bitsPerPixel:
      ((Number(video.bit_rate) || (8 * file.size) / seconds) * (AGAINST_H264[video.codec_name ?? ''] ?? 1)) /
      (rate * width * height),
    hasSound: streams.some((stream) => stream.codec_type === 'audio'),
    even: Math.abs(average / ratio(video.r_frame_rate) - 1) < 1e-4 && Math.abs(Number(video.start_time ?? 0)) < 1e-3,
    rotation,
    fieldOfView: depth?.rig
      ? Number(colourFieldOfView(depth.rig).toFixed(1))
      : lensView({ ...format.tags, ...video.tags }, width, height),
    depth,
  };
}

/** The tag that tells how the cameras of a depth device lie to each other, as JSON. */
export const DEPTH_RIG_TAG = 'DEPTH_RIG';
/** What it says where depth shows what the picture shows. */
export const ONE_LENS = 'one lens';

function depthTrack(others: readonly z.infer<typeof Stream>[], tags: Record<string, unknown> = {}): DepthTrack | null {
  const stream = others.find(({ pix_fmt }) => /^gray16/.test(pix_fmt ?? ''));
  const told = Object.entries(tags).find(([key]) => key.toUpperCase() === DEPTH_RIG_TAG)?.[1];
  const rig = told === ONE_LENS ? null : DepthRig.safeParse(safeJson(String(told ?? ''))).data;
  if (!stream || rig === undefined) return null;
  return { stream: stream.index, width: stream.width ?? 0, height: stream.height ?? 0, rig };
}

/** Diagonal of a 35 mm picture, millimetres: what equivalent focal lengths refer to. */
const FULL_DIAGONAL = 43.27;

/**
 * The field of view that a file's tags tell by the lens' focal length as it would be on 35 mm film (the key's name
 * differs from camera to camera, but says so; EXIF calls it FocalLengthIn35mmFilm).
 */
function lensView(tags: Record<string, unknown>, width: number, height: number): number | null {
  const told = Object.entries(tags).find(([key]) => /focal.?length.*35/i.test(key))?.[1];
  const focal = Number.parseFloat(String(told ?? ''));
  if (!(focal >= 5 && focal <= 400)) return null;
  const across = (FULL_DIAGONAL * Math.max(width, height)) / Math.hypot(width, height);
  return Number(((2 * Math.atan(across / 2 / focal) * 180) / Math.PI).toFixed(1));
}

function safeJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Size of a PNG picture from its header. @throws FootageError when the file is no PNG. */
export async function pngSize(path: string): Promise<{ width: number; height: number }> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(24), 0, 24, 0);
    if (bytesRead < 24 || buffer.readUInt32BE(0) !== 0x89504e47)
      throw new FootageError('The first picture of the folder is no PNG.');
    return { width: buffer.readUInt32BE(16), height: buffer.readUInt32BE(20) };
  } finally {
    await file.close();
  }
}
