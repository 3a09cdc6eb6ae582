import { useState } from 'react';
import { TextInput, View } from 'react-native';
import { nameWith, type Document } from '@libretto/model';
import { renameDocument } from '../store/editing';
import { useApp, useAppDispatch } from '../store/store';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { useTokens } from '../ui/theme';
import { corner, fonts } from '../ui/tokens';
import { useSay } from '../ui/words/words';
import { NameSuggestions } from './lazy';
import { NameRead } from './NameRead';
import type { TakenSender } from './senders';

export interface NameLineProps {
  document: Document;
  large?: boolean;
  /** The ending of its file, where that is shown. */
  extension?: string;
  level?: 1 | 2;
}

/** A document's name; a tap changes it. Enter or leaving keeps it, Escape does not. */
export function NameLine({ document, large = true, extension, level = 1 }: NameLineProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const [draft, setDraft] = useState<string | null>(null);
  const [opened, setOpened] = useState('');
  const first = useApp((s) => s.library.page[document.pageIds[0] ?? '']);
  /** The sender that was taken off the page, and where it stands in the name: what somebody makes of it there is how that sender is called. */
  const [taken, setTaken] = useState<TakenSender | null>(null);
  const open = () => {
    setTaken(null);
    setOpened(document.name);
    setDraft(document.name);
  };
  const keep = () => {
    // What has become of the name meanwhile stays, if nothing was typed.
    if (draft !== null && draft !== opened) {
      void dispatch(renameDocument(document, draft));
      if (taken) void import('./senders').then(({ learnSender }) => dispatch(learnSender(taken, draft)), () => {}); // prettier-ignore
    }
    setDraft(null);
  };
  if (draft !== null)
    return (
      <div
        style={large ? undefined : { flex: 1 }}
        // Leaving it all keeps the name; going on to what was read does not.
        onBlur={(event) => event.currentTarget.contains(event.relatedTarget) || keep()}
      >
        <TextInput
          autoFocus
          selectTextOnFocus
          value={draft}
          onChangeText={setDraft}
          onSubmitEditing={keep}
          onKeyPress={(event) => event.nativeEvent.key === 'Escape' && setDraft(null)}
          aria-label={say('document.name')}
          maxLength={200}
          style={{
            fontFamily: fonts.heading,
            fontSize: large ? 24 : 20,
            minHeight: 48,
            minWidth: 0,
            paddingHorizontal: 12,
            color: t.ink,
            backgroundColor: t.leaf,
            borderWidth: 1,
            borderColor: t.wine,
            borderRadius: corner,
          }}
        />
        {first ? (
          <NameSuggestions
            page={first}
            onPick={(part) => {
              const name = nameWith(draft, part);
              setDraft(name);
              if (part.kind === 'sender') setTaken({ ...part, name });
            }}
            onName={(name, sender) => {
              setDraft(name);
              setTaken(sender ? { ...sender, name } : null);
            }}
            scannedAt={document.createdAt}
          />
        ) : null}
      </div>
    );
  return (
    <View>
      <View style={{ flexDirection: 'row', alignItems: 'center' }}>
        {/* The pencil is the control; for a finger the name is one too. */}
        <div style={{ display: 'contents' }} onClick={open}>
          <Heading level={level} variant={large ? 'headlineMedium' : 'titleLarge'} style={{ flexShrink: 1 }}>
            {extension ? `${document.name}.${extension}` : document.name}
          </Heading>
        </div>
        <IconAction icon="pencil" size={20} label={say('document.rename')} onPress={open} />
      </View>
      {document.nameRead === document.name ? <NameRead document={document} /> : null}
    </View>
  );
}
