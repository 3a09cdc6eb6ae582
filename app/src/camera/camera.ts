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

export const faultWords: Record<CameraFault, { title: string; what: string }> = {
  insecure: {
    title: 'No camera on this address',
    what: 'Browsers allow the camera only on https or localhost. Open Libretto there, or bring photographs in from files.',
  },
  unsupported: {
    title: 'This browser has no camera',
    what: 'Take the photographs with the phone’s own camera and bring them in from files.',
  },
  refused: {
    title: 'The camera was not allowed',
    what: 'Allow it for this page in the browser’s settings (the sign beside the address), then try again.',
  },
  none: {
    title: 'No camera found',
    what: 'Plug one in and try again, bring photographs in from files, or look round with the stand-in.',
  },
  taken: { title: 'Another program has the camera', what: 'Close the call or program that uses it, then try again.' },
  lost: { title: 'The camera went away', what: 'Every page taken so far is safe. Plug it in again and try again.' },
  fault: { title: 'The camera does not work', what: 'Try again, or bring photographs in from files.' },
};

/** Shows a stream in a video element; returns how to take it off again. */
export function showStream(video: HTMLVideoElement, stream: MediaStream): () => void {
  video.srcObject = stream;
  void video.play().catch(() => {});
  return () => {
    video.srcObject = null;
  };
}
