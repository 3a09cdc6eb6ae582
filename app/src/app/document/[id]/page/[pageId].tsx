import { useLocalSearchParams } from 'expo-router';
import { Bench } from '../../../../page/Bench';
import { useWide } from '../../../../ui/useWide';

export default function PageRoute() {
  const { id, pageId, drawer } = useLocalSearchParams<{ id: string; pageId: string; drawer?: string }>();
  return <Bench documentId={id} pageId={pageId} drawer={drawer === 'finish' ? 'finish' : 'edges'} back={!useWide()} />;
}
