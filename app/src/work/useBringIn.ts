import { useRouter } from 'expo-router';
import { useCallback } from 'react';
import { useAppDispatch } from '../store/store';
import { bringIn } from './importing';

/** Brings files into a document, or a new one, and shows it as soon as all is in. */
export function useBringIn(into: string | null): (files: readonly File[]) => Promise<void> {
  const dispatch = useAppDispatch();
  const router = useRouter();
  return useCallback(
    async (files: readonly File[]) => {
      if (!files.length) return;
      const id = await dispatch(bringIn(files, into));
      if (id && !into) router.push(`/document/${id}`);
    },
    [dispatch, into, router],
  );
}
