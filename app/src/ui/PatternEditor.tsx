import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { nameByPattern, nameParts, nameSeparators, type NamePart, type NamePattern } from '@libretto/model';
import { Action } from './Action';
import { DragRows } from './DragRows';
import { Field } from './Field';
import { IconAction } from './IconAction';
import { MoreMenu } from './MoreMenu';
import { useSay } from './words/words';

/** How many parts a name is built from at most. */
const most = 8;
/** Up and down. */
const quarterTurn = { transform: [{ rotate: '90deg' }] };

export interface PatternEditorProps {
  pattern: NamePattern;
  onChange: (next: NamePattern) => void;
}

/** How names are built: parts in an order, and what stands between them; an example shows it at once. */
export function PatternEditor({ pattern, onChange: keep }: PatternEditorProps) {
  const say = useSay();
  const parts = (next: NamePattern['parts']) => keep({ ...pattern, parts: next });
  const swap = (i: number, j: number) => {
    const next = [...pattern.parts];
    [next[i], next[j]] = [next[j]!, next[i]!];
    parts(next);
  };
  // Each but the free text stands in a name once.
  const left = nameParts.filter((kind) => kind === 'text' || !pattern.parts.some((p) => p.kind === kind));
  const example = nameByPattern(pattern, {
    date: '2026-11-19',
    sender: say('names.exampleSender'),
    title: say('names.exampleTitle'),
    number: '4471',
    at: new Date(2026, 10, 20, 14, 2),
  });
  return (
    <View style={{ gap: 10 }}>
      <DragRows
        items={pattern.parts}
        idOf={(part, i) => `${part.kind} ${pattern.parts.slice(0, i).filter((p) => p.kind === part.kind).length}`}
        onOrder={parts}
        row={({ kind, text }, i) => (
          <>
            {kind === 'text' ? (
              <Field
                label={say('names.part.text')}
                value={text ?? ''}
                maxLength={60}
                onChangeText={(typed) => parts(pattern.parts.map((p, j) => (j === i ? { kind, text: typed } : p)))}
                style={{ flex: 1 }}
              />
            ) : (
              <Text style={{ flex: 1 }}>{say(`names.part.${kind}`)}</Text>
            )}
            <IconAction
              style={quarterTurn}
              icon="arrow-left"
              label={say('names.earlier', { part: say(`names.part.${kind}`) })}
              disabled={i === 0}
              onPress={() => swap(i, i - 1)}
            />
            <IconAction
              style={quarterTurn}
              icon="arrow-right"
              label={say('names.later', { part: say(`names.part.${kind}`) })}
              disabled={i === pattern.parts.length - 1}
              onPress={() => swap(i, i + 1)}
            />
            <IconAction
              icon="close"
              label={say('names.remove', { part: say(`names.part.${kind}`) })}
              onPress={() => parts(pattern.parts.filter((_, j) => j !== i))}
            />
          </>
        )}
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        <MoreMenu
          label={say('names.add')}
          entries={left.map((kind: NamePart) => ({
            title: say(`names.part.${kind}`),
            onPress: () => parts([...pattern.parts, { kind }]),
          }))}
        >
          {(open) => (
            <Action icon="plus" disabled={pattern.parts.length >= most} onPress={open as never}>
              {say('names.add')}
            </Action>
          )}
        </MoreMenu>
        <MoreMenu
          label={say('names.between')}
          entries={nameSeparators.map((separator) => ({
            title: say('names.separator', { separator }),
            ...(separator === pattern.separator && { icon: 'check' }),
            onPress: () => keep({ ...pattern, separator }),
          }))}
        >
          {(open) => <Action onPress={open as never}>{say('names.betweenIs', { separator: pattern.separator })}</Action>}
        </MoreMenu>
      </View>
      <Text role="status" testID="name-example" variant="titleMedium">
        {example ? say('names.example', { name: example }) : say('names.empty')}
      </Text>
    </View>
  );
}
