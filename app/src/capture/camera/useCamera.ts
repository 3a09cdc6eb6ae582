import { useCallback, useEffect, useState } from 'react';
import { holdReading } from '../../work/reading';
import { CameraError, type CameraChoice, type CameraFault, type RunningCamera } from './camera';
import { cameraChoices, openCamera } from './cameras';

export interface CameraInUse {
  camera: RunningCamera | null;
  fault: CameraFault | null;
  choices: readonly CameraChoice[];
  again: () => void;
}

/**
 * Opens a camera (the device's usual one without an id) and closes it when it is no longer wanted, once all that was asked of it is there.
 *
 * @param drained resolves when the camera has nothing more to give.
 */
export function useCamera(id: string | null, drained: () => Promise<void>): CameraInUse {
  const [camera, setCamera] = useState<RunningCamera | null>(null);
  const [fault, setFault] = useState<CameraFault | null>(null);
  const [choices, setChoices] = useState<readonly CameraChoice[]>([]);
  const [tries, setTries] = useState(0);

  useEffect(() => {
    let open: RunningCamera | null = null;
    let gone = false;
    const close = async (camera: RunningCamera | null) => {
      if (!camera) return;
      await drained();
      camera.close();
    };
    const start = async () => {
      try {
        // A phone gives one camera at a time: the one before closes first.
        await drained();
        if (gone) return;
        // A camera that was chosen before may not be there any more.
        const opened = await openCamera(id).catch((error) =>
          id && error instanceof CameraError && error.fault === 'none' ? openCamera(null) : Promise.reject(error),
        );
        open = opened;
        if (gone) return void close(opened);
        opened.onLost(() => {
          void close(opened);
          if (gone) return;
          setCamera(null);
          setFault('lost');
        });
        setCamera(opened);
        setFault(null);
      } catch (error) {
        if (!gone) setFault(error instanceof CameraError ? error.fault : 'fault');
      }
      // Names are told only once a camera has been allowed.
      const all = await cameraChoices();
      if (!gone) setChoices(all);
    };
    void start();
    return () => {
      gone = true;
      void close(open);
      setCamera(null);
    };
  }, [id, tries, drained]);

  useEffect(() => (camera ? holdReading() : undefined), [camera]);

  useEffect(() => {
    // The screen stays awake while the camera runs, where the browser can do that; it lets go whenever the page is hidden.
    if (!camera || !navigator.wakeLock) return;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const hold = async () => {
      if (document.hidden) return;
      const got = await navigator.wakeLock.request('screen').catch(() => null);
      if (over) void got?.release();
      else lock = got;
    };
    void hold();
    document.addEventListener('visibilitychange', hold);
    return () => {
      over = true;
      document.removeEventListener('visibilitychange', hold);
      void lock?.release();
    };
  }, [camera]);

  const again = useCallback(() => {
    setFault(null);
    setTries((n) => n + 1);
  }, []);
  return { camera, fault, choices, again };
}
