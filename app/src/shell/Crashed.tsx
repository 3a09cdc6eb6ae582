import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { Action } from '../ui/Action';
import { Heading } from '../ui/Heading';
import { useSay } from '../ui/words/words';

/** A screen that has thrown: nothing that was saved is touched by it. */
export function Crashed({ error, retry }: { error: Error; retry: () => unknown }) {
  const say = useSay();
  return (
    <View role="main" style={{ flex: 1, alignItems: 'center', justifyContent: 'center', padding: 20 }}>
      <View role="alert" style={{ maxWidth: 460, gap: 16 }}>
        <Heading variant="headlineMedium">{say('start.crash')}</Heading>
        <Text>{say('start.crashSaid', { said: error.message })}</Text>
        <Action main tall onPress={() => void retry()}>
          {say('common.retry')}
        </Action>
        <Action tall onPress={() => window.location.assign('/')}>
          {say('start.toShelf')}
        </Action>
      </View>
    </View>
  );
}
