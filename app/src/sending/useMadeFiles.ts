import { useEffect, useState } from 'react';
import { isWords, type Document, type Page, type Problem } from '@libretto/model';
import { useApp, useAppDispatch } from '../store/store';
import { makeFiles, type MadeFile } from '../work/exporting';
import { imageKey } from '../work/pageImages';
import { wasCancelled } from '../work/pool';
import { problemOf } from '../work/problem';
import { isReadable, readText } from '../work/reading';

export interface Making {
  /** One, or one for each page. */
  files: MadeFile[] | null;
  done: number;
  problem: Problem | null;
}

/** The document as PDF, or its pages as one each, made as soon as it is asked for and again when something changes. */
export function useMadeFiles(document: Document, pages: readonly Page[], password = ''): Making {
  const dispatch = useAppDispatch();
  const [made, setMade] = useState<(Making & { key: string; pixels: string }) | null>(null);
  // A page that has just been read is in the file, too.
  const texts = useApp((s) =>
    document.searchable === false && (document.format ?? 'pdf') === 'pdf'
      ? ''
      : pages.map((p) => s.session.texts[p.id] ?? '').join(),
  );
  const pixels = JSON.stringify([
    document.name,
    document.files,
    document.format,
    document.searchable,
    document.underMb,
    document.paper,
    (document.format ?? 'pdf') === 'pdf' && password,
    pages.map((p) => (p.recipe ? imageKey(p, 'print') : p.id)),
  ]);
  const key = `${pixels} ${texts}`;
  useEffect(() => {
    const controller = new AbortController();
    const tell = (part: Partial<Making>) =>
      !controller.signal.aborted &&
      setMade((before) => ({
        ...{ files: null, done: 0, problem: null },
        // What lacks only words can be sent until the one with them is there.
        ...(before?.pixels === pixels ? before : {}),
        ...part,
        key,
        pixels,
      }));
    const make = async () => {
      // What goes out is what was read: it is read now. Each page that is known then begins this anew.
      if (isWords(document.format ?? 'pdf'))
        for (const page of pages) {
          if (controller.signal.aborted) return null;
          if (isReadable(page)) await dispatch(readText(page)).catch(() => null);
        }
      return makeFiles(document, pages, controller.signal, (done) => tell({ done }), password);
    };
    make().then(
      (files) => files && tell({ files, problem: null }),
      (error: unknown) => !wasCancelled(error) && tell({ problem: problemOf(error) }),
    );
    return () => controller.abort();
    // The key names all that decides the file.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return made?.pixels === pixels ? made : { files: null, done: 0, problem: null };
}
