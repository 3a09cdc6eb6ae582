import { lazy, Suspense, type ComponentType } from 'react';
import { Spinner } from './Spinner';
import { moreWords, useSay } from './words/words';

/** A part of the app that is fetched when it is first shown. Each is named in one place only, or the bundler would put it with what is always fetched. */
/** @param silent: what it stands for is not there until it is, as with a sheet that opens. */
export function lazily<P extends object>(load: () => Promise<ComponentType<P>>, { silent = false }: { silent?: boolean } = {}) {
  const Part = lazy(async () => ({ default: (await Promise.all([load(), moreWords()]))[0] })) as unknown as ComponentType<P>;
  return function Lazily(props: P) {
    const say = useSay();
    return (
      <Suspense fallback={silent ? null : <Spinner label={say('start.opening')} style={{ flex: 1, justifyContent: 'center' }} />}>
        <Part {...props} />
      </Suspense>
    );
  };
}
