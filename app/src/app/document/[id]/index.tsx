import { useLocalSearchParams, useRouter } from 'expo-router';
import { ProofSheet } from '../../../documents/lazy';
import { SendSheet } from '../../../sending/lazy';
import { useWide } from '../../../ui/useWide';

export default function DocumentRoute() {
  const { id, send } = useLocalSearchParams<{ id: string; send?: string }>();
  const router = useRouter();
  const wide = useWide();
  return (
    <>
      <ProofSheet key={id} id={id} back={!wide} onSend={() => router.setParams({ send: '1' })} />
      {send === '1' ? <SendSheet documentId={id} onClose={() => router.setParams({ send: '' })} /> : null}
    </>
  );
}
