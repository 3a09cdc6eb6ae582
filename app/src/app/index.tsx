import { Shelf } from '../documents/Shelf';
import { useTitle } from '../ui/useTitle';
import { useSay } from '../ui/words/words';

export default function ShelfRoute() {
  const say = useSay();
  useTitle(say('shelf.title'));
  return <Shelf />;
}
