import { useRouter } from 'expo-router';
import { useRef, useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { SendDetails } from '@libretto/model';
import { settingsId } from '../store/library';
import { noticed } from '../store/session';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { Progress } from '../ui/Progress';
import { Sheet } from '../ui/Sheet';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { sayCode, useSay } from '../ui/words/words';
import { keepingProblem } from '../work/importing';
import { wasCancelled } from '../work/pool';
import { makeStored, storedDocument } from './makeStored';
import { send } from './outbox';
import type { TypedFor } from './PlaceDetails';
import { PlacesToChoose, useDetails } from './PlacesToChoose';

/** Where several documents go: each as a file of its own, made one after the other. */
export function SendSeveral({ ids, onClose }: { ids: readonly string[]; onClose: (sent: boolean) => void }) {
  const t = useTokens();
  const say = useSay();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const summaries = useApp((s) => s.library.summary);
  const known = useApp((s) => s.library.place);
  const { lastPlaces, folders = {} } = useApp((s) => s.library.settings[settingsId]!);
  const documents = ids.flatMap((id) => summaries[id] ?? []);
  const [typed, setTyped] = useState<Record<string, TypedFor>>(() => Object.fromEntries(lastPlaces.slice(0, 1).flatMap((id) => (known[id] ? [[id, typedBefore(folders[id])]] : [])))); // prettier-ignore
  const [message, setMessage] = useState('');
  const [done, setDone] = useState<number | null>(null);
  const stop = useRef<AbortController | null>(null);
  const details = useDetails(typed);
  const chosen = Object.keys(details).flatMap((id) => known[id] ?? []);
  const ready = chosen.length > 0 && !Object.values(details).includes(null) && done === null;
  const doubtful = documents.filter((d) => d.doubts).length;
  const go = async () => {
    if (!ready) return;
    const { signal } = (stop.current = new AbortController());
    const missed: { name: string; reason: string }[] = [];
    setDone(0);
    for (const [i, { id, name }] of documents.entries()) {
      setDone(i);
      try {
        const document = await storedDocument(id);
        const files = document && (await dispatch(makeStored(document, signal)));
        if (files)
          await dispatch(send({ documentId: id, files, message: message.trim(), typed: details as Record<string, SendDetails>, places: chosen })); // prettier-ignore
        else missed.push({ name, reason: say('several.notReady') });
      } catch (error) {
        if (wasCancelled(error) || signal.aborted) break;
        missed.push({ name, reason: sayCode(say, 'problem', keepingProblem(error)) });
      }
      if (signal.aborted) break;
    }
    stop.current = null;
    setDone(null);
    if (missed.length)
      dispatch(noticed({ code: 'notice.notAllSent', values: { count: missed.length, name: missed[0]!.name, reason: missed[0]!.reason } })); // prettier-ignore
    if (!signal.aborted) {
      onClose(true);
      if (missed.length < documents.length) router.navigate('/outbox');
    }
  };
  const close = () => {
    stop.current?.abort();
    onClose(false);
  };
  useKeys({ 'mod+enter': () => void go() }, { over: true });
  return (
    <Sheet title={say('several.title', { count: documents.length })} onClose={close}>
      <Text numberOfLines={3} style={{ color: t.pencil }}>
        {documents.map((d) => d.name).join(say('common.dot'))}
      </Text>
      {doubtful ? <Text style={{ color: t.brass }}>{say('several.doubts', { count: doubtful })}</Text> : null}
      <PlacesToChoose
        typed={typed}
        onToggle={(id) => setTyped(({ [id]: before, ...others }) => (before ? others : { ...others, [id]: typedBefore(folders[id]) }))} // prettier-ignore
        onType={(id, one) => setTyped((all) => ({ ...all, [id]: one }))}
      />
      {chosen.some((place) => place.kind === 'mail') ? (
        <Field
          value={message}
          onChangeText={setMessage}
          label={say('send.message')}
          maxLength={2000}
          multiline
          style={{ minHeight: 72, paddingVertical: 10 }}
        />
      ) : null}
      {done !== null ? (
        <View role="status" style={{ gap: 6 }}>
          <Progress value={done / documents.length} label={say('several.title', { count: documents.length })} />
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say('several.making', { name: documents[done]?.name ?? '', done: done + 1, total: documents.length })}
          </Text>
        </View>
      ) : null}
      <Action tall main disabled={!ready} loading={done !== null} onPress={() => void go()}>
        {chosen.length ? say('several.send', { count: documents.length }) : say('send.choose')}
      </Action>
      <Action onPress={close}>{say(done === null ? 'common.cancel' : 'common.stop')}</Action>
    </Sheet>
  );
}

const typedBefore = (folder: string | undefined): TypedFor => (folder === undefined ? {} : { folder });
