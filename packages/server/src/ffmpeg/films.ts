import { Problem } from '@tender-orbit/core/problem';
import { startFfmpeg } from './ffmpeg.ts';

/** What a film's file says of its picture. */
export interface FilmFacts {
  /** Pixels as it is shown: turned upright, pixels square. */
  width: number;
  height: number;
  /** Frames a second, of one that varies the mean. */
  rate: number;
  /** Null: the file does not say. */
  seconds: number | null;
  codec: string;
  alpha: boolean;
  /** `progressive` unless fields are woven into each other. */
  interlaced: boolean;
  /** BT.2100: light of its own that has to be brought into the range of a screen. */
  hdr: boolean;
  /** Matrix that its colours are coded by, as ffmpeg calls it; null: the file does not say. */
  matrix: string | null;
  /** Whether there is sound with it. */
  sound: boolean;
}

interface ProbedStream {
  codec_name?: string;
  width?: number;
  height?: number;
  sample_aspect_ratio?: string;
  avg_frame_rate?: string;
  r_frame_rate?: string;
  duration?: string;
  pix_fmt?: string;
  field_order?: string;
  color_transfer?: string;
  color_space?: string;
  tags?: Record<string, string>;
  side_data_list?: Array<{ rotation?: number }>;
  disposition?: { attached_pic?: number };
}

const ratio = (text: string | undefined): number => {
  const [above, below = '1'] = (text ?? '').split(/[/:]/);
  const value = Number(above) / Number(below);
  return Number.isFinite(value) && value > 0 ? value : 0;
};

/**
 * Reads what a film is, without decoding it; the program that does it stands beside `ffmpeg`.
 *
 * @throws Problem `film/no-picture` when it holds no moving picture, `ffmpeg/failed` when it cannot be read
 */
export async function filmFacts(ffmpeg: string, path: string, signal?: AbortSignal): Promise<FilmFacts> {
  const probe = ffmpeg.replace(/ffmpeg$/, 'ffprobe');
  const args = ['-protocol_whitelist', 'file', '-show_streams', '-show_format', '-of', 'json', path];
  const { streams = [], format = {} } = JSON.parse((await startFfmpeg(probe, args, signal).done).toString()) as {
    streams?: Array<ProbedStream & { codec_type?: string }>;
    format?: { duration?: string };
  };
  const stream = streams.find((s) => s.codec_type === 'video' && !s.disposition?.attached_pic);
  if (!stream?.width || !stream.height)
    throw new Problem('film/no-picture', 'The file holds no moving picture: bring a film or a GIF.', 'Film');
  const turned = Math.abs(stream.side_data_list?.find((d) => d.rotation !== undefined)?.rotation ?? 0) % 180 === 90;
  const upright = [Math.round(stream.width * (ratio(stream.sample_aspect_ratio) || 1)), stream.height];
  if (turned) upright.reverse();
  const seconds = Number(stream.duration ?? format.duration);
  return {
    width: upright[0],
    height: upright[1],
    rate: ratio(stream.avg_frame_rate) || ratio(stream.r_frame_rate) || 25,
    seconds: Number.isFinite(seconds) && seconds > 0 ? seconds : null,
    codec: stream.codec_name ?? '',
    // Two codecs keep alpha apart from the picture, and say so in a tag.
    alpha: /^(yuva|gbrap|rgba|bgra|argb|abgr|ya\d|pal8)/.test(stream.pix_fmt ?? '') || stream.tags?.alpha_mode === '1',
    interlaced: !['progressive', 'unknown', undefined].includes(stream.field_order),
    hdr: ['smpte2084', 'arib-std-b67'].includes(stream.color_transfer ?? ''),
    sound: streams.some((s) => s.codec_type === 'audio'),
    matrix: stream.color_space && stream.color_space !== 'unknown' ? stream.color_space : null,
  };
}

export interface FilmCut {
  path: string;
  facts: FilmFacts;
  /** Frames a second to cut it into. */
  rate: number;
  /** Frames at most. */
  most: number;
  width: number;
  height: number;
  /** Names of the frames' files, e.g. "…/%05d.png"; the ending says how they are kept. */
  out: string;
}

/** Lines above which a film that does not say its matrix is taken for BT.709. */
const SD_LINES = 720;

/**
 * Decodes a film to a picture file for each frame at a constant rate: upright, progressive, in sRGB's primaries with eight bits,
 * alpha kept in PNG.
 *
 * @throws Problem `ffmpeg/failed` when it cannot be read
 */
export async function cutFilm(
  ffmpeg: string,
  { path, facts, rate, most, width, height, out }: FilmCut,
  signal?: AbortSignal,
): Promise<void> {
  const png = out.endsWith('.png');
  const matrix = facts.matrix ?? (facts.height >= SD_LINES ? 'bt709' : 'smpte170m');
  const known = ['bt709', 'smpte170m', 'bt470bg', 'bt2020nc'].includes(matrix) ? matrix : 'bt709';
  const colours = facts.hdr
    ? [
        'zscale=t=linear:npl=203,format=gbrpf32le,zscale=p=bt709',
        'tonemap=mobius:param=0.7:desat=0',
        'zscale=t=iec61966-2-1:m=bt709:r=full',
      ]
    : [];
  const filters = [
    ...(facts.interlaced ? ['yadif'] : []),
    `fps=${rate}`,
    ...colours,
    `scale=${width}:${height}:flags=lanczos+accurate_rnd+full_chroma_int${facts.hdr ? '' : `:in_color_matrix=${known}`}`,
    `format=${png ? (facts.alpha ? 'rgba' : 'rgb24') : 'yuvj444p'}`,
  ];
  const decoder =
    facts.alpha && (facts.codec === 'vp9' || facts.codec === 'vp8')
      ? ['-c:v', facts.codec === 'vp9' ? 'libvpx-vp9' : 'libvpx']
      : [];
  const coder = png ? ['-c:v', 'png', '-compression_level', '2', '-pred', 'up'] : ['-c:v', 'mjpeg', '-q:v', '2'];
  const args = [
    ...[...decoder, '-protocol_whitelist', 'file', '-i', path, '-map', '0:V:0', '-vf', filters.join(',')],
    ...['-frames:v', String(most), '-fps_mode', 'passthrough'],
    ...[...coder, '-f', 'image2', '-start_number', '0', '-y', out],
  ];
  await startFfmpeg(ffmpeg, args, signal).done;
}
