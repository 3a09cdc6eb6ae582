import { Bin } from '../documents/lazy';

export default function BinRoute() {
  return <Bin />;
}
