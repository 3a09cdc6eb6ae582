import { useLocalSearchParams } from 'expo-router';
import { Help } from '../settings/lazy';

export default function HelpRoute() {
  const { at } = useLocalSearchParams<{ at?: string }>();
  return <Help at={at || null} />;
}
