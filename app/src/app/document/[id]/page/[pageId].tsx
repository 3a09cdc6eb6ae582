import { useLocalSearchParams } from 'expo-router';
import { Bench } from '../../../../screens/bench/Bench';
import { useWide } from '../../../../screens/frame/Frame';

export default function PageRoute() {
  const { id, pageId, drawer } = useLocalSearchParams<{ id: string; pageId: string; drawer?: string }>();
  return <Bench documentId={id} pageId={pageId} drawer={drawer === 'finish' ? 'finish' : 'edges'} back={!useWide()} />;
}
