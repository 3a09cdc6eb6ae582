import { useRouter } from 'expo-router';
import { useEffect, useState } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { Checkbox, Icon, ProgressBar, SegmentedButtons, Text, TextInput } from 'react-native-paper';
import { bytesInWords, fitsMail, mailBytes, type Document, type Page, type Place } from '@libretto/model';
import { Action } from '../../components/Action';
import { Over } from '../../components/Over';
import { Stitches } from '../../components/Stitches';
import { useKeys } from '../../components/useKeys';
import { saveToDevice } from '../../state/exporting';
import { documentLearned, settingsId } from '../../state/library';
import { send } from '../../state/outbox';
import { learnPlaces } from '../../state/places';
import { useApp, useAppDispatch } from '../../state/store';
import { noticed } from '../../state/work';
import { useTokens } from '../../theme/theme';
import { widePx } from '../../theme/tokens';
import { NameLine } from '../proof/NameLine';
import { hasDoubt, pagesInWords } from '../shelf/words';
import { useMadePdfs } from './useMadePdfs';

const device = 'this-device';

interface Draft {
  chosen: string[];
  message: string;
}

/** What was ticked and typed outlives a reload. */
function readDraft(documentId: string, last: readonly string[]): Draft {
  try {
    const kept = sessionStorage.getItem(`send:${documentId}`);
    if (kept) return JSON.parse(kept) as Draft;
  } catch {
    // No session storage: begin afresh.
  }
  return { chosen: last.slice(0, 1), message: '' };
}

/** Where a document goes: its file name as it will be, its size, the places, a line for the mail, one press. */
export function SendSheet({ document, pages, onClose }: { document: Document; pages: readonly Page[]; onClose: () => void }) {
  const t = useTokens();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const known = useApp((s) => s.library.place);
  const last = useApp((s) => s.library.settings[settingsId]!.lastPlaces);
  const [draft, setDraft] = useState(() => readDraft(document.id, last));
  const [busy, setBusy] = useState(false);
  const { files, done, problem } = useMadePdfs(document, pages);
  const perPage = document.files === 'page';
  const bytes = files?.reduce((sum, f) => sum + f.blob.size, 0) ?? 0;
  const largest = Math.max(0, ...(files ?? []).map((f) => f.blob.size));
  const rank = (p: Place) => (last.includes(p.id) ? last.indexOf(p.id) : 99);
  const places = Object.values(known).sort((a, b) => rank(a) - rank(b));
  const chosen = places.filter((p) => draft.chosen.includes(p.id));
  const count = chosen.length + (draft.chosen.includes(device) ? 1 : 0);
  const mails = chosen.filter((p) => p.kind === 'mail');
  const tooLarge = files ? mails.filter((p) => mailBytes(largest) > p.limit) : [];
  const ink = pages.filter((p) => p.made?.filter === 'ink').length;
  const doubts = pages.filter(hasDoubt).length;

  useEffect(() => {
    void dispatch(learnPlaces());
  }, [dispatch]);
  useEffect(() => {
    try {
      sessionStorage.setItem(`send:${document.id}`, JSON.stringify(draft));
    } catch {
      // Not kept, then.
    }
  }, [draft, document.id]);
  useKeys({ 'mod+enter': () => void go() }, { over: true });

  const toggle = (id: string) =>
    setDraft((d) => ({ ...d, chosen: d.chosen.includes(id) ? d.chosen.filter((c) => c !== id) : [...d.chosen, id] }));
  const go = async () => {
    if (!files || !count || tooLarge.length || busy) return;
    setBusy(true);
    try {
      for (const { fileName, blob, sha256 } of files) {
        if (draft.chosen.includes(device)) saveToDevice({ fileName, blob, sha256 });
        if (chosen.length)
          await dispatch(
            send({ documentId: document.id, fileName, file: blob, sha256, message: draft.message.trim(), places: chosen }),
          );
      }
      sessionStorage.removeItem(`send:${document.id}`);
      if (chosen.length) router.navigate('/outbox');
      else onClose();
    } catch (error) {
      dispatch(noticed({ text: `Could not be put into the outbox: ${(error as Error).message}` }));
    } finally {
      setBusy(false);
    }
  };

  const row = (id: string, icon: string, name: string, about: string, problemWords?: string) => {
    const on = draft.chosen.includes(id);
    return (
      <Pressable
        key={id}
        onPress={() => toggle(id)}
        role="checkbox"
        aria-checked={on}
        aria-label={`${name}, ${about}`}
        style={{
          flexDirection: 'row',
          alignItems: 'center',
          gap: 14,
          minHeight: 52,
          borderBottomWidth: 1,
          borderColor: t.hairline,
        }}
      >
        <Icon source={icon} size={24} color={on ? t.wine : t.pencil} />
        <View style={{ flex: 1 }}>
          <Text variant={on ? 'labelLarge' : 'bodyLarge'}>{name}</Text>
          <Text variant="bodySmall" style={{ color: problemWords ? t.rust : t.pencil }}>
            {problemWords ?? about}
          </Text>
        </View>
        <View aria-hidden pointerEvents="none">
          <Checkbox status={on ? 'checked' : 'unchecked'} />
        </View>
      </Pressable>
    );
  };

  const press = busy
    ? 'Putting it into the outbox'
    : !files
      ? 'Making the PDF'
      : count > 1
        ? `Send to ${count} places`
        : chosen[0]
          ? `Send to ${chosen[0].name}`
          : count
            ? 'Save to this device'
            : 'Choose where to';
  return (
    <Over low label="Send" maxWidth={widePx / 1.6} onClose={onClose}>
      <ScrollView contentContainerStyle={{ padding: 16, gap: 12 }}>
        <View>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            Name
          </Text>
          <NameLine document={document} large={false} />
        </View>
        <View role="status" style={{ gap: 4 }}>
          {problem ? (
            <Text style={{ color: t.rust }}>{problem}</Text>
          ) : files ? (
            <>
              <Text testID="file-size">
                <Text variant="labelLarge">{bytesInWords(bytes)}</Text>
                {fitsMail(largest) ? ' · fits a mail' : ' · too large for most mailboxes'}
              </Text>
              <Text variant="bodySmall" style={{ color: t.pencil }}>
                {perPage ? `${files.length} PDFs, a page each` : `PDF, ${pagesInWords(pages.length)}`} at true size
                {ink ? `, ${ink === pages.length ? 'all' : ink} in 1 bit` : ''}
              </Text>
            </>
          ) : (
            <>
              <Text>
                Making the PDF: page {Math.min(done + 1, pages.length)} of {pages.length}
              </Text>
              <ProgressBar progress={done / Math.max(1, pages.length)} />
            </>
          )}
          {doubts ? (
            <Text variant="bodySmall" style={{ color: t.brass }}>
              {pagesInWords(doubts)} still {doubts === 1 ? 'needs' : 'need'} a look
            </Text>
          ) : null}
        </View>
        {pages.length > 1 ? (
          <SegmentedButtons
            value={document.files ?? 'one'}
            onValueChange={(value) => dispatch(documentLearned({ id: document.id, facts: { files: value as 'one' | 'page' } }))}
            buttons={[
              { value: 'one', label: 'One file' },
              { value: 'page', label: `${pages.length} files, a page each` },
            ]}
          />
        ) : null}
        <Stitches />
        <View>
          <Text variant="labelLarge">To</Text>
          {places.map((p) =>
            row(
              p.id,
              p.kind === 'folder' ? 'cloud-outline' : 'email-outline',
              p.name,
              p.about,
              tooLarge.includes(p)
                ? `takes mails up to ${bytesInWords(p.limit)}; this would be ${bytesInWords(mailBytes(largest))}`
                : undefined,
            ),
          )}
          {row(device, 'cellphone-arrow-down', 'This device', 'saved as a file')}
          {!places.length ? (
            <Text variant="bodySmall" style={{ color: t.pencil, paddingTop: 8 }}>
              The server has told no places yet. Saving to this device works without it.
            </Text>
          ) : null}
        </View>
        {mails.length ? (
          <TextInput
            mode="outlined"
            value={draft.message}
            onChangeText={(message) => setDraft((d) => ({ ...d, message }))}
            placeholder="A line for the mail"
            aria-label="A line for the mail"
            maxLength={2000}
            multiline
          />
        ) : null}
        <Action
          tall
          main
          disabled={!files || !count || tooLarge.length > 0 || busy}
          loading={busy || (!files && !problem)}
          onPress={() => void go()}
        >
          {press}
        </Action>
        <Action onPress={onClose}>Not now</Action>
      </ScrollView>
    </Over>
  );
}
