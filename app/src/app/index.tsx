import { useState } from 'react';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { Shelf } from '../documents/Shelf';
import { FolderSends, SendSeveral } from '../sending/lazy';
import { useTitle } from '../ui/useTitle';
import { useSay } from '../ui/words/words';

export default function ShelfRoute() {
  const say = useSay();
  const router = useRouter();
  const { folder, sends } = useLocalSearchParams<{ folder?: string; sends?: string }>();
  const [several, setSeveral] = useState<{ ids: readonly string[]; end: () => void } | null>(null);
  useTitle(say('shelf.title'));
  return (
    <>
      <Shelf
        folder={folder ?? null}
        onFolder={(id) => router.push(id ? `/?folder=${id}` : '/')}
        onFolderSends={(id) => router.setParams({ sends: id })}
        onSend={(ids, end) => setSeveral({ ids, end })}
      />
      {several ? (
        <SendSeveral
          ids={several.ids}
          onClose={(sent) => {
            setSeveral(null);
            if (sent) several.end();
          }}
        />
      ) : null}
      {sends ? <FolderSends folderId={sends} onClose={() => router.setParams({ sends: '' })} /> : null}
    </>
  );
}
