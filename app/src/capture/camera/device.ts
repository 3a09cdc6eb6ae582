import { CameraError, type CameraChoice, type CameraFault, type RunningCamera } from './camera';

interface StillCapture {
  takePhoto(): Promise<Blob>;
  getPhotoCapabilities?(): Promise<{ imageWidth?: { max: number }; imageHeight?: { max: number } }>;
}
declare const ImageCapture: (new (track: MediaStreamTrack) => StillCapture) | undefined;

type PhoneTrack = MediaTrackCapabilities & { torch?: boolean; focusMode?: string[] };

/** The cameras of this device; names are known only once one has been allowed. */
export async function deviceCameras(): Promise<CameraChoice[]> {
  const devices = (await navigator.mediaDevices?.enumerateDevices?.()) ?? [];
  return devices.filter((d) => d.kind === 'videoinput' && d.deviceId).map((d) => ({ id: d.deviceId, label: d.label }));
}

/**
 * Opens a camera of the device at its highest useful resolution, the one at the back if there is a choice.
 *
 * @throws CameraError that tells what is in the way.
 */
export async function openDevice(id: string | null): Promise<RunningCamera> {
  if (!window.isSecureContext) throw new CameraError('insecure', 'Not a secure address');
  if (!navigator.mediaDevices?.getUserMedia) throw new CameraError('unsupported', 'No getUserMedia');
  let stream: MediaStream;
  try {
    stream = await navigator.mediaDevices.getUserMedia({
      audio: false,
      video: {
        ...(id ? { deviceId: { exact: id } } : { facingMode: { ideal: 'environment' } }),
        width: { ideal: 4096 },
        height: { ideal: 3072 },
      },
    });
  } catch (error) {
    throw new CameraError(faultOf((error as Error).name), (error as Error).message);
  }
  const track = stream.getVideoTracks()[0]!;
  const capabilities = (track.getCapabilities?.() ?? {}) as PhoneTrack;
  // Pages are near: a lens that can follow should.
  if (capabilities.focusMode?.includes('continuous'))
    await track.applyConstraints({ advanced: [{ focusMode: 'continuous' } as MediaTrackConstraintSet] }).catch(() => {});
  const capture = typeof ImageCapture === 'undefined' ? null : new ImageCapture(track);
  const sizes = await capture?.getPhotoCapabilities?.().catch(() => null);
  return {
    id: track.getSettings().deviceId ?? id,
    stillEdgePx: Math.max(sizes?.imageWidth?.max ?? 0, sizes?.imageHeight?.max ?? 0) || null,
    stream,
    still: async () => {
      // The still-picture interface gives the sensor's full resolution, where it works; else a frame of the stream.
      const picture = await capture?.takePhoto().catch(() => null);
      return picture ?? frameOf(stream);
    },
    light: capabilities.torch ? (on) => track.applyConstraints({ advanced: [{ torch: on } as MediaTrackConstraintSet] }) : null,
    onLost: (listener) => track.addEventListener('ended', listener, { once: true }),
    close: () => stream.getTracks().forEach((t) => t.stop()),
  };
}

function faultOf(name: string): CameraFault {
  switch (name) {
    case 'NotAllowedError':
    case 'SecurityError':
      return 'refused';
    case 'NotFoundError':
    case 'OverconstrainedError':
      return 'none';
    case 'NotReadableError':
    case 'AbortError':
      return 'taken';
    default:
      return 'fault';
  }
}

/** The current frame of a stream as JPEG. */
async function frameOf(stream: MediaStream): Promise<Blob> {
  const video = document.createElement('video');
  video.muted = true;
  video.srcObject = stream;
  await video.play();
  if (!video.videoWidth) await new Promise((resolve) => video.addEventListener('resize', resolve, { once: true }));
  const canvas = new OffscreenCanvas(video.videoWidth, video.videoHeight);
  canvas.getContext('2d')!.drawImage(video, 0, 0);
  video.srcObject = null;
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.93 });
}
