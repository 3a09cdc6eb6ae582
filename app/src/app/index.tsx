import { useLocalSearchParams, useRouter } from 'expo-router';
import { Shelf } from '../documents/Shelf';
import { FolderSends } from '../sending/lazy';
import { useTitle } from '../ui/useTitle';
import { useSay } from '../ui/words/words';

export default function ShelfRoute() {
  const say = useSay();
  const router = useRouter();
  const { folder, sends } = useLocalSearchParams<{ folder?: string; sends?: string }>();
  useTitle(say('shelf.title'));
  return (
    <>
      <Shelf
        folder={folder ?? null}
        onFolder={(id) => router.push(id ? `/?folder=${id}` : '/')}
        onFolderSends={(id) => router.setParams({ sends: id })}
      />
      {sends ? <FolderSends folderId={sends} onClose={() => router.setParams({ sends: '' })} /> : null}
    </>
  );
}
