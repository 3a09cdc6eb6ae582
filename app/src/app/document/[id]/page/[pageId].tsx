import { useLocalSearchParams } from 'expo-router';
import { Bench } from '../../../../page/Bench';
import { drawers } from '../../../../page/Drawers';
import { useWide } from '../../../../ui/useWide';

export default function PageRoute() {
  const { id, pageId, drawer, find } = useLocalSearchParams<{ id: string; pageId: string; drawer?: string; find?: string }>();
  const shown = drawers.find((d) => d === drawer) ?? 'edges';
  return <Bench documentId={id} pageId={pageId} drawer={shown} {...(find && { find })} back={!useWide()} />;
}
