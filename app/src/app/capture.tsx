import { useLocalSearchParams, useRouter } from 'expo-router';
import { BringIn } from '../screens/capture/BringIn';
import { Capture } from '../screens/capture/Capture';

export default function CaptureRoute() {
  const router = useRouter();
  const { into, from } = useLocalSearchParams<{ into?: string; from?: string }>();
  const document = into || null;
  if (from === 'files') return <BringIn into={document} />;
  return <Capture into={document} onFiles={() => router.setParams({ from: 'files' })} />;
}
