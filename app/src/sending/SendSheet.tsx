import { useRouter } from 'expo-router';
import { useEffect, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { Text } from 'react-native-paper';
import { mailBytes, type Document, type Page, type Place } from '@libretto/model';
import { settingsId } from '../store/library';
import { noticed } from '../store/session';
import { useApp, useAppDispatch } from '../store/store';
import { useDocument } from '../store/useDocument';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { Over } from '../ui/Over';
import { Stitches } from '../ui/Stitches';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { fileSize } from '../ui/words/format';
import { sayCode, useSay } from '../ui/words/words';
import { printedPages } from '../work/exporting';
import { printPages } from '../work/printing';
import { saveBlob } from '../work/saveBlob';
import { keepingProblem } from '../work/importing';
import { send } from './outbox';
import { detailsOf, PlaceDetails, type TypedFor } from './PlaceDetails';
import { placeIcons } from './placeIcons';
import { PlaceRow } from './PlaceRow';
import { learnPlaces } from './places';
import { SendFile } from './SendFile';
import { useMadeFiles } from './useMadeFiles';

const device = 'this-device';
const otherApp = 'other-app';
const printer = 'printer';

interface Draft {
  chosen: string[];
  message: string;
  subject?: string;
  typed?: Record<string, TypedFor>;
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

/** Whether this device hands files over to other apps (Web Share, level 2). */
function canShare(fileName: string, type: string): boolean {
  return typeof navigator.canShare === 'function' && navigator.canShare({ files: [new File([], fileName, { type })] });
}

/** The sheet of a document, once it has been read. */
export function SendSheet({ documentId, onClose }: { documentId: string; onClose: () => void }) {
  const { document, pages } = useDocument(documentId);
  return document ? <Sheet document={document} pages={pages} onClose={onClose} /> : null;
}

/** Where a document goes: its file name as it will be, its size, the places, a line for the mail, one press. */
function Sheet({ document, pages, onClose }: { document: Document; pages: readonly Page[]; onClose: () => void }) {
  const t = useTokens();
  const say = useSay();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const known = useApp((s) => s.library.place);
  const { lastPlaces: last, folders: lastFolders = {} } = useApp((s) => s.library.settings[settingsId]!);
  const [draft, setDraft] = useState(() => readDraft(document.id, last));
  const [busy, setBusy] = useState(false);
  const [password, setPassword] = useState<string | null>('');
  const making = useMadeFiles(document, pages, password ?? '');
  const { files, problem } = making;
  const largest = Math.max(0, ...(files ?? []).map((f) => f.blob.size));
  const rank = (p: Place) => (last.includes(p.id) ? last.indexOf(p.id) : 99);
  const places = Object.values(known).sort((a, b) => rank(a) - rank(b));
  const chosen = places.filter((p) => draft.chosen.includes(p.id));
  const here = [device, otherApp, printer].filter((id) => draft.chosen.includes(id));
  const count = chosen.length + here.length;
  const typedFor = (p: Place): TypedFor => {
    const folder = lastFolders[p.id];
    return { ...(p.kind !== 'mail' && folder !== undefined && { folder }), ...draft.typed?.[p.id] };
  };
  const details = new Map(chosen.map((p) => [p.id, detailsOf(p, typedFor(p))]));
  const incomplete = [...details.values()].includes(null);
  // One is wanted, and there is none yet.
  const unlocked = password === null && (document.format ?? 'pdf') === 'pdf';
  const mails = chosen.filter((p) => p.kind === 'mail');
  const tooLarge = files ? mails.filter((p) => mailBytes(largest) > p.limit) : [];
  const [shares] = useState(() => canShare('Page.pdf', 'application/pdf'));

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
    if (!files || !count || incomplete || unlocked || tooLarge.length || busy) return;
    setBusy(true);
    try {
      // First, while the press still counts as one.
      if (draft.chosen.includes(otherApp))
        await navigator
          .share({ files: files.map(({ fileName, blob }) => new File([blob], fileName, { type: blob.type })) })
          // Put away again by whoever was asked.
          .catch((error: Error) => {
            if (error.name !== 'AbortError') throw error;
          });
      const typed = Object.fromEntries([...details].map(([id, d]) => [id, d!]));
      const subject = draft.subject?.trim();
      if (draft.chosen.includes(device)) for (const { fileName, blob } of files) saveBlob(blob, fileName);
      if (draft.chosen.includes(printer)) await printPages(await printedPages(pages));
      if (chosen.length) {
        const message = draft.message.trim();
        await dispatch(send({ documentId: document.id, files, message, ...(subject && { subject }), typed, places: chosen }));
      }
      sessionStorage.removeItem(`send:${document.id}`);
      if (chosen.length) router.navigate('/outbox');
      else onClose();
    } catch (error) {
      const reason = sayCode(say, 'problem', keepingProblem(error));
      dispatch(noticed({ code: 'notice.notQueued', values: { reason } }));
    } finally {
      setBusy(false);
    }
  };

  const row = (id: string, icon: string, name: string, about: string, problemWords?: string) => (
    <PlaceRow
      icon={icon}
      name={name}
      about={about}
      problem={problemWords}
      on={draft.chosen.includes(id)}
      onPress={() => toggle(id)}
    />
  );

  const press = busy
    ? say('send.putting')
    : !files
      ? say('send.makingFile')
      : count > 1
        ? say('send.toPlaces', { count })
        : chosen[0]
          ? say('send.toPlace', { name: chosen[0].name })
          : count
            ? say(here[0] === otherApp ? 'send.shareNow' : here[0] === printer ? 'send.printNow' : 'send.save')
            : say('send.choose');
  return (
    <Over low label={say('send.title')} maxWidth={560} onClose={onClose}>
      <ScrollView style={{ flexShrink: 1 }} contentContainerStyle={{ padding: 16, gap: 12 }}>
        <SendFile
          document={document}
          pages={pages}
          making={making}
          password={password}
          onPassword={setPassword}
          tooLarge={tooLarge.length > 0}
        />
        <Stitches />
        <View role="group" aria-label={say('send.to')}>
          <Text variant="labelLarge">{say('send.to')}</Text>
          {places.map((p) => (
            <View key={p.id}>
              {row(
                p.id,
                placeIcons[p.kind],
                p.name,
                p.typed ? say('places.typed') : p.about,
                tooLarge.includes(p)
                  ? say('send.mailLimit', { limit: fileSize(p.limit), size: fileSize(mailBytes(largest)) })
                  : undefined,
              )}
              {draft.chosen.includes(p.id) ? (
                <PlaceDetails
                  place={p}
                  typed={typedFor(p)}
                  onChange={(one) => setDraft((d) => ({ ...d, typed: { ...d.typed, [p.id]: one } }))}
                />
              ) : null}
            </View>
          ))}
          {shares ? row(otherApp, 'tray-arrow-up', say('send.share'), say('send.shareAbout')) : null}
          {row(device, 'cellphone-arrow-down', say('send.device'), say('send.deviceAbout'))}
          {row(printer, 'printer-outline', say('send.print'), say('send.printAbout'))}
          {!places.length ? (
            <Text variant="bodySmall" style={{ color: t.pencil, paddingTop: 8 }}>
              {say('send.noPlaces')}
            </Text>
          ) : null}
          <Action icon="plus" onPress={() => router.push('/places')} style={{ alignSelf: 'flex-start', marginTop: 10 }}>
            {say('send.morePlaces')}
          </Action>
        </View>
        {mails.length ? (
          <Field
            value={draft.subject ?? ''}
            onChangeText={(subject) => setDraft((d) => ({ ...d, subject }))}
            label={say('send.subject')}
            placeholder={document.name}
            maxLength={200}
          />
        ) : null}
        {mails.length ? (
          <Field
            value={draft.message}
            onChangeText={(message) => setDraft((d) => ({ ...d, message }))}
            label={say('send.message')}
            maxLength={2000}
            multiline
            style={{ minHeight: 72, paddingVertical: 10 }}
          />
        ) : null}
      </ScrollView>
      {/* In sight however long the list of places is. */}
      <View style={{ flexDirection: 'row', gap: 10, padding: 12, borderTopWidth: 1, borderColor: t.hairline }}>
        <Action tall onPress={onClose}>
          {say('common.cancel')}
        </Action>
        <Action
          tall
          main
          disabled={!files || !count || incomplete || unlocked || tooLarge.length > 0 || busy}
          loading={busy || (!files && !problem)}
          onPress={() => void go()}
          style={{ flex: 1 }}
        >
          {press}
        </Action>
      </View>
    </Over>
  );
}
