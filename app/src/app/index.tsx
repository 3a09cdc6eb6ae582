import { useLocalSearchParams, useRouter } from 'expo-router';
import { Shelf } from '../documents/Shelf';
import { useTitle } from '../ui/useTitle';
import { useSay } from '../ui/words/words';

export default function ShelfRoute() {
  const say = useSay();
  const router = useRouter();
  const { folder } = useLocalSearchParams<{ folder?: string }>();
  useTitle(say('shelf.title'));
  return <Shelf folder={folder ?? null} onFolder={(id) => router.push(id ? `/?folder=${id}` : '/')} />;
}
