import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { dropCache, stored, type Stored } from '../store/files';
import { Action } from '../ui/Action';
import { Progress } from '../ui/Progress';
import { useTokens } from '../ui/theme';
import { useRoom } from '../ui/useRoom';
import { FreePhotos } from './FreePhotos';
import { fileSize } from '../ui/words/format';
import { useSay } from '../ui/words/words';

/** What this device holds, by what it is; what of it can be made again; and whether the browser keeps it. */
export function Room() {
  const t = useTokens();
  const say = useSay();
  const [sizes, setSizes] = useState<Stored | null>(null);
  const [kept, setKept] = useState<boolean | null | undefined>(undefined);
  const [turn, setTurn] = useState(0);
  const room = useRoom(turn);
  useEffect(() => {
    void stored().then(setSizes, () => {});
  }, [turn]);
  useEffect(() => {
    void (navigator.storage?.persisted?.() ?? Promise.resolve(null)).then(setKept, () => setKept(null));
  }, []);
  const line = (words: string, bytes: number) => (
    <View
      role="listitem"
      style={{ flexDirection: 'row', gap: 12, paddingVertical: 6, borderBottomWidth: 1, borderColor: t.hairline }}
    >
      <Text style={{ flex: 1 }}>{words}</Text>
      <Text>{fileSize(bytes)}</Text>
    </View>
  );
  return (
    <>
      {sizes ? (
        <View role="list">
          {line(say('room.photos'), sizes.photos)}
          {line(say('room.prepared'), sizes.renders + sizes.thumbs)}
          {line(say('room.outgoing'), sizes.outgoing)}
        </View>
      ) : (
        <Text>{say('settings.reading')}</Text>
      )}
      {room ? (
        <View style={{ gap: 6 }}>
          <Text style={{ color: room.short ? t.rust : t.pencil }}>
            {say(room.short ? 'room.short' : 'room.of', { used: fileSize(room.used), allowed: fileSize(room.allowed) })}
          </Text>
          <Progress value={room.used / room.allowed} label={say('room.meter')} />
        </View>
      ) : null}
      <FreePhotos onFreed={() => setTurn(turn + 1)} />
      {sizes?.renders ? (
        <Action style={{ alignSelf: 'flex-start' }} onPress={() => void dropCache().then(() => setTurn(turn + 1))}>
          {say('room.free', { size: fileSize(sizes.renders) })}
        </Action>
      ) : null}
      {kept === undefined ? null : (
        <Text style={{ color: t.pencil }}>
          {say(kept ? 'settings.kept' : kept === null ? 'settings.unknownKept' : 'settings.notKept')}
        </Text>
      )}
      {kept === false ? (
        <Action
          style={{ alignSelf: 'flex-start' }}
          onPress={() => void navigator.storage.persist().then(setKept, () => setKept(false))}
        >
          {say('settings.askKeep')}
        </Action>
      ) : null}
    </>
  );
}
