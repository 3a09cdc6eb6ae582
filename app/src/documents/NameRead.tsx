import { View } from 'react-native';
import { Button, Text } from 'react-native-paper';
import { firstName, type Document } from '@libretto/model';
import { answerName } from '../store/editing';
import { useAppDispatch } from '../store/store';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';

/** Says of a name that it was read off the page and nobody has looked yet: a touch says that it is right, or takes it back. */
export function NameRead({ document }: { document: Document }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  return (
    <View role="group" aria-label={say('names.unasked')} style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center' }}>
      <Text variant="bodySmall" style={{ color: t.brass }}>
        {say('names.unasked')}
      </Text>
      <Button mode="text" compact onPress={() => void dispatch(answerName(document))}>
        {say('names.right')}
      </Button>
      <Button mode="text" compact onPress={() => void dispatch(answerName(document, firstName(new Date(document.createdAt))))}>
        {say('names.takeBack')}
      </Button>
    </View>
  );
}
