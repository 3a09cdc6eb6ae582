import { useEffect, useMemo, useState } from 'react';
import { View } from 'react-native';
import { Button, Text } from 'react-native-paper';
import { senderOf, standing, type Document } from '@libretto/model';
import { foldersOf, holdBack } from '../store/filing';
import { useApp, useAppDispatch } from '../store/store';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import { useGoesTo } from './useGoesTo';

/** That its folder or its cover slip will send a document by itself, what it waits for, and the way to keep it here. Once it is under way the outbox tells the rest. */
export function FolderNotice({ document }: { document: Document }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const folders = useApp(foldersOf);
  const sender = useMemo(() => senderOf(folders, document), [folders, document]);
  const summary = useApp((s) => s.library.summary[document.id]);
  const to = useGoesTo(sender);
  const gone = useApp((s) => {
    const places = new Set(summary?.deliveries.flatMap((id) => s.library.delivery[id]?.place.id ?? []));
    return Object.keys(sender?.sendsTo ?? {}).every((id) => places.has(id));
  });
  const [now, setNow] = useState(Date.now);
  const stands = sender && summary ? standing(summary, sender, now) : undefined;
  const until = stands?.code === 'settling' ? stands.until : 0;
  useEffect(() => {
    if (!until) return;
    const timer = setTimeout(() => setNow(Date.now()), Math.max(0, until - Date.now()) + 20);
    return () => clearTimeout(timer);
  }, [until]);
  if (!stands || gone || stands.code === 'empty') return null;
  const held = stands.code === 'held';
  return (
    <View
      role="status"
      style={{ flexDirection: 'row', alignItems: 'center', gap: 10, paddingLeft: 12, borderLeftWidth: 4, borderColor: held ? t.hairline : t.wine, backgroundColor: t.well }} // prettier-ignore
    >
      <Sign source="send" size={20} color={held ? t.pencil : t.wine} />
      <Text style={{ flex: 1, paddingVertical: 8 }}>
        {say(`byItself.${stands.code}`, { to, count: 'pages' in stands ? stands.pages : 0 })}
      </Text>
      <Button mode="text" compact onPress={() => void dispatch(holdBack([document], !held))}>
        {say(held ? 'byItself.letGo' : 'byItself.hold')}
      </Button>
    </View>
  );
}
