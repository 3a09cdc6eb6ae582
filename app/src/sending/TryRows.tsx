import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { trySteps, type Place, type TryAnswer } from '@libretto/model';
import { Sign } from '../ui/Sign';
import { Spinner } from '../ui/Spinner';
import { Stitches } from '../ui/Stitches';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';

/** The steps of trying a place: what went well, what stopped it, what was not come to. Without an answer it is under way. */
export function TryRows({ kind, answer }: { kind: Place['kind']; answer: TryAnswer | null }) {
  const t = useTokens();
  const say = useSay();
  const steps = trySteps[kind];
  const stoppedAt = answer?.failed ? steps.find((step) => !answer.done.includes(step)) : undefined;
  return (
    <View role="status" testID="try" style={{ gap: 4 }}>
      <Stitches />
      {answer ? null : <Spinner label={say('places.trying')} />}
      {steps.map((step) => {
        const done = answer?.done.includes(step) ?? false;
        const stopped = step === stoppedAt;
        return (
          <View key={step} style={{ flexDirection: 'row', gap: 12, alignItems: 'center', minHeight: 32 }}>
            <Sign
              source={done ? 'check' : stopped ? 'alert-circle-outline' : 'checkbox-blank-outline'}
              size={20}
              color={done ? t.moss : stopped ? t.rust : t.pencil}
            />
            <Text style={{ flex: 1, color: done || stopped ? t.ink : t.pencil }}>{say(`places.step.${step}`)}</Text>
          </View>
        );
      })}
      {answer?.failed ? <Text style={{ color: t.rust }}>{answer.failed.reason}</Text> : null}
      {answer && !answer.failed ? <Text style={{ color: t.moss }}>{say('places.works')}</Text> : null}
    </View>
  );
}
