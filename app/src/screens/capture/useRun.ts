import { useRouter } from 'expo-router';
import { useCallback, useRef, useState } from 'react';
import type { RunningCamera } from '../../camera/camera';
import { bringIn } from '../../state/importing';
import { store, useAppDispatch } from '../../state/store';
import { noticed } from '../../state/work';

/**
 * A run of shots into one document. A shot asks the camera for its picture and is then stored behind the next ones, in order; the
 * shutter never waits for it.
 */
export function useRun(into: string | null): { shoot: (camera: RunningCamera) => void; pending: number } {
  const dispatch = useAppDispatch();
  const router = useRouter();
  const [pending, setPending] = useState(0);
  const document = useRef(into);
  const storing = useRef<Promise<unknown>>(Promise.resolve());
  const shoot = useCallback(
    (camera: RunningCamera) => {
      const picture = camera.still();
      setPending((n) => n + 1);
      storing.current = storing.current
        .then(async () => {
          const blob = await picture;
          const known = document.current && store.getState().library.document[document.current];
          const name = `${new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-')}.jpg`;
          const id = await dispatch(bringIn([new File([blob], name, { type: blob.type })], known ? document.current : null));
          if (!id || id === document.current) return;
          document.current = id;
          // A reload comes back to the run.
          router.setParams({ into: id });
        })
        .catch((error: Error) => dispatch(noticed({ text: `The picture could not be kept: ${error.message}. Take it again.` })))
        .finally(() => setPending((n) => n - 1));
    },
    [dispatch, router],
  );
  return { shoot, pending };
}
