/**
 * What every call of ffmpeg and ffprobe on a person's file carries: it may open that one local file
 * and nothing else, so a playlist or a reference inside the file leads nowhere.
 */
const CONTAINERS =
  'mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mpegts,mpeg,mpegvideo,m4v,flv,ogg,asf,h264,hevc,mjpeg,gif,dv,mxf,nut,ivf,apng';

export function safeInput(path: string): string[] {
  return ['-protocol_whitelist', 'file', '-format_whitelist', CONTAINERS, '-i', `file:${path}`];
}
