import { useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { Action } from '../ui/Action';
import { Heading } from '../ui/Heading';
import { Stitches } from '../ui/Stitches';
import { useTokens } from '../ui/theme';
import { useTitle } from '../ui/useTitle';
import { useSay, type WordKey } from '../ui/words/words';
import { open } from './begin';

type Saving =
  { state: 'no' } | { state: 'under'; count: number } | { state: 'done'; count: number } | { state: 'failed'; said: string };

/** The start has failed: what is wrong, trying again, and the photographs in any case. */
export function StartFailed({ failed, said }: { failed: 'full' | 'blocked' | 'fault'; said: string }) {
  const t = useTokens();
  const say = useSay();
  useTitle(say('start.title'));
  const [saving, setSaving] = useState<Saving>({ state: 'no' });
  const save = () => {
    setSaving({ state: 'under', count: 0 });
    import('./savePhotos')
      .then(({ savePhotos }) => savePhotos((count) => setSaving({ state: 'under', count })))
      .then(
        (count) => setSaving({ state: 'done', count }),
        (error: Error) => setSaving({ state: 'failed', said: error.message }),
      );
  };
  const words =
    saving.state === 'under'
      ? say('start.saving', { count: saving.count })
      : saving.state === 'done'
        ? saving.count
          ? say('start.saved', { count: saving.count })
          : say('start.noPhotos')
        : saving.state === 'failed'
          ? say('start.notSaved', { said: saving.said })
          : say('start.safe');
  return (
    <View role="main" style={{ flex: 1, alignItems: 'center', justifyContent: 'center', padding: 20 }}>
      <View role="alert" style={{ maxWidth: 460, gap: 16 }}>
        <Heading variant="headlineMedium">{say('start.title')}</Heading>
        <Stitches color={t.rust} />
        <Text>{say(`start.${failed}` as WordKey, { said })}</Text>
        <Action main tall onPress={() => void open()}>
          {say('common.retry')}
        </Action>
        <Action tall onPress={save} disabled={saving.state === 'under'} loading={saving.state === 'under'}>
          {say('start.save')}
        </Action>
        <Text role="status" style={{ color: t.pencil }}>
          {words}
        </Text>
      </View>
    </View>
  );
}
