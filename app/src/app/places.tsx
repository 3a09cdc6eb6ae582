import { Places } from '../sending/lazy';

export default function PlacesRoute() {
  return <Places />;
}
