import { useLocalSearchParams } from 'expo-router';
import { BringIn, Capture } from '../capture/lazy';

export default function CaptureRoute() {
  const { into, from, camera, again, before } = useLocalSearchParams<Partial<Record<'into' | 'from' | 'camera' | 'again' | 'before', string>>>(); // prettier-ignore
  const document = into || null;
  return from === 'files' ? (
    <BringIn into={document} />
  ) : (
    <Capture into={document} standIn={camera || null} again={again || null} before={before || null} />
  );
}
