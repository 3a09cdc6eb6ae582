import { useLocalSearchParams } from 'expo-router';
import { BringIn } from '../screens/capture/BringIn';

export default function CaptureRoute() {
  const { into } = useLocalSearchParams<{ into?: string }>();
  return <BringIn into={into ?? null} />;
}
