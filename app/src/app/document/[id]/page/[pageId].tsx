import { useLocalSearchParams } from 'expo-router';
import { Bench } from '../../../../page/lazy';
import { useWide } from '../../../../ui/useWide';

export default function PageRoute() {
  const { id, pageId, drawer, find } = useLocalSearchParams<{ id: string; pageId: string; drawer?: string; find?: string }>();
  return <Bench documentId={id} pageId={pageId} drawer={drawer || null} {...(find && { find })} back={!useWide()} />;
}
