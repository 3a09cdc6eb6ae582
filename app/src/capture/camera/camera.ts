/** Why there is no live picture; each has its own words and its own way out. */
export type CameraFault = 'insecure' | 'unsupported' | 'refused' | 'none' | 'taken' | 'lost' | 'fault';

export class CameraError extends Error {
  constructor(
    readonly fault: CameraFault,
    message: string,
  ) {
    super(message);
  }
}

/** A camera that could be opened. */
export interface CameraChoice {
  id: string;
  /** What the device calls it; empty while it does not say. */
  label: string;
}

/** A running camera. Whatever stands behind it, the screen sees a stream, stills and what it can do. */
export interface RunningCamera {
  id: string | null;
  /** Long side of its stills, px; the stream's own where that is not known. */
  stillEdgePx: number | null;
  stream: MediaStream;
  /** One picture at the highest useful resolution. */
  still(): Promise<Blob>;
  /** Switches the light; null where there is none. */
  light: ((on: boolean) => Promise<void>) | null;
  /** Called when the picture stops by itself: unplugged, taken away. */
  onLost(listener: () => void): void;
  close(): void;
}

/** Shows a stream in a video element; returns how to take it off again. */
export function showStream(video: HTMLVideoElement, stream: MediaStream): () => void {
  video.srcObject = stream;
  void video.play().catch(() => {});
  return () => {
    video.srcObject = null;
  };
}
