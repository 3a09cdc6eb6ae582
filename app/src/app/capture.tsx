import { useLocalSearchParams } from 'expo-router';
import { BringIn } from '../screens/capture/BringIn';
import { Capture } from '../screens/capture/Capture';

export default function CaptureRoute() {
  const { into, from, camera, again } = useLocalSearchParams<{ into?: string; from?: string; camera?: string; again?: string }>();
  const document = into || null;
  return from === 'files' ? (
    <BringIn into={document} />
  ) : (
    <Capture into={document} standIn={camera || null} again={again || null} />
  );
}
