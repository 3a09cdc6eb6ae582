import { useLocalSearchParams } from 'expo-router';
import { useWide } from '../../../screens/frame/Frame';
import { ProofSheet } from '../../../screens/proof/ProofSheet';

export default function DocumentRoute() {
  const { id, send } = useLocalSearchParams<{ id: string; send?: string }>();
  return <ProofSheet key={id} id={id} sending={send === '1'} back={!useWide()} />;
}
