import { useState } from 'react';
import { View } from 'react-native';
import { IconButton, Text, TextInput } from 'react-native-paper';
import type { Document } from '@libretto/model';
import { renameDocument } from '../../state/editing';
import { useAppDispatch } from '../../state/store';
import { fonts } from '../../theme/tokens';

/** A document's name; a tap changes it. Enter or leaving keeps it, Escape does not. */
export function NameLine({ document, large = true }: { document: Document; large?: boolean }) {
  const dispatch = useAppDispatch();
  const [draft, setDraft] = useState<string | null>(null);
  const keep = () => {
    if (draft !== null) dispatch(renameDocument(document, draft));
    setDraft(null);
  };
  if (draft !== null)
    return (
      <TextInput
        mode="outlined"
        dense
        autoFocus
        selectTextOnFocus
        value={draft}
        onChangeText={setDraft}
        onBlur={keep}
        onSubmitEditing={keep}
        onKeyPress={(event) => event.nativeEvent.key === 'Escape' && setDraft(null)}
        aria-label="Name of the document"
        maxLength={200}
        style={{ fontFamily: fonts.heading, flex: large ? undefined : 1 }}
      />
    );
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center' }}>
      <Text
        variant={large ? 'headlineMedium' : 'titleLarge'}
        role="heading"
        style={{ flexShrink: 1 }}
        onPress={() => setDraft(document.name)}
      >
        {document.name}
        {large ? '' : '.pdf'}
      </Text>
      <IconButton
        icon="pencil"
        size={20}
        accessibilityLabel="Change the name"
        onPress={() => setDraft(document.name)}
        style={{ margin: 0 }}
      />
    </View>
  );
}
