import { useRouter } from 'expo-router';
import { useCallback, useRef } from 'react';
import { bringIn } from '../../state/importing';
import { useAppDispatch } from '../../state/store';

/** Brings files into a document, or a new one, and shows it as soon as the first page is safe. */
export function useBringIn(into: string | null): { add: (files: readonly File[]) => Promise<void>; cancel: () => void } {
  const dispatch = useAppDispatch();
  const router = useRouter();
  const controller = useRef<AbortController | null>(null);
  const add = useCallback(
    async (files: readonly File[]) => {
      if (!files.length) return;
      controller.current = new AbortController();
      const id = await dispatch(bringIn(files, into, controller.current.signal));
      if (id && !into) router.push(`/document/${id}`);
    },
    [dispatch, into, router],
  );
  return { add, cancel: () => controller.current?.abort() };
}
