import { Button } from 'react-native-paper';
import type { Document } from '@libretto/model';
import { answerSlip } from '../store/filing';
import { useAppDispatch } from '../store/store';
import { Banner } from '../ui/Banner';
import { useSay } from '../ui/words/words';
import { keepSlip } from '../work/slips';
import { useGoesTo } from './useGoesTo';

/** Asks where a cover slip may mean a document to go: a box is neither empty nor clearly ticked, or the slip was not printed here. */
export function SlipNotice({ document, asks }: { document: Document; asks: NonNullable<Document['slipAsks']> }) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const to = useGoesTo(asks);
  const yes = async () => {
    await dispatch(answerSlip(document, true));
    if (asks.why === 'strange') await dispatch(keepSlip(asks.id));
  };
  return (
    <Banner tone="attention" title={say(`slip.ask.${asks.why}`, { to })}>
      <Button mode="text" compact onPress={() => void yes()}>
        {say('slip.ask.yes')}
      </Button>
      <Button mode="text" compact onPress={() => void dispatch(answerSlip(document, false))}>
        {say('slip.ask.no')}
      </Button>
    </Banner>
  );
}
