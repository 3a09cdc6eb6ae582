import { Shelf } from '../screens/shelf/Shelf';

export default function ShelfRoute() {
  return <Shelf />;
}
