import { useGlobalSearchParams, usePathname, useRouter } from 'expo-router';
import { ScrollView } from 'react-native';
import { Dialog } from 'react-native-paper';
import { helpFor } from '../settings/helpSections';
import { KeyList } from '../settings/KeyList';
import { LetterKeys } from '../settings/LetterKeys';
import { Action } from '../ui/Action';
import { Over } from '../ui/Over';
import { useSay } from '../ui/words/words';

/** All keys, on "?", and whether single ones act. */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  const say = useSay();
  const router = useRouter();
  const path = usePathname();
  const { drawer } = useGlobalSearchParams<{ drawer?: string }>();
  return (
    <Over label={say('keys.title')} maxWidth={480} onClose={onClose}>
      <Dialog.Title role="heading" aria-level={2}>
        {say('keys.title')}
      </Dialog.Title>
      <Dialog.ScrollArea>
        <ScrollView contentContainerStyle={{ gap: 6, paddingVertical: 12 }}>
          <KeyList />
          <LetterKeys />
        </ScrollView>
      </Dialog.ScrollArea>
      <Dialog.Actions>
        <Action
          icon="book-open-page-variant-outline"
          onPress={() => {
            onClose();
            router.push(`/help?at=${helpFor(path, drawer)}`);
          }}
        >
          {say('help.thisScreen')}
        </Action>
        <Action onPress={onClose}>{say('common.done')}</Action>
      </Dialog.Actions>
    </Over>
  );
}
