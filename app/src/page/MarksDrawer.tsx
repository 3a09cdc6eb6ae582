import { View } from 'react-native';
import { Text, TouchableRipple } from 'react-native-paper';
import { coverFills, markColours, type CoverFill, type Mark, type MarkColour } from '@libretto/model';
import { Action } from '../ui/Action';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { useSay } from '../ui/words/words';
import { highlighters, inks } from '../work/markDrawing';
import { areas, noteKinds, shapes, sizesPt, toolIds, widthsMm, type ToolChoice, type ToolId } from './markTools';

export interface MarksDrawerProps {
  choice: ToolChoice;
  onChoice: (choice: ToolChoice) => void;
  /** The mark that is taken hold of. */
  held: Mark | null;
  onEdit: (mark: Mark) => void;
  onDelete: (id: string) => void;
  onCopy: (mark: Mark) => void;
  onRestyle: (
    mark: Mark,
    style: { colour?: MarkColour; widthMm?: number; sizePt?: number; fill?: CoverFill; stays?: boolean },
  ) => void;
  /** The signature is to be drawn, or another one. */
  onSign: () => void;
  signed: boolean;
}

const icons: Record<ToolId, string> = {
  pen: 'draw-pen',
  highlight: 'marker',
  note: 'format-text',
  shapes: 'vector-line',
  cover: 'eye-off-outline',
  select: 'cursor-default-outline',
};

/** The tool that a mark was put on with. */
function kindOf(mark: Mark): Exclude<ToolId, 'select'> {
  if (mark.kind === 'ink') return 'pen';
  if (mark.kind === 'part') return 'cover';
  return mark.kind === 'highlight' || mark.kind === 'note' || mark.kind === 'cover' ? mark.kind : 'shapes';
}

/** Six tools at most, and what belongs to the chosen one. */
export function MarksDrawer({ choice, onChoice, held, onEdit, onDelete, onCopy, onRestyle, onSign, signed }: MarksDrawerProps) {
  const t = useTokens();
  const say = useSay();
  const { id, width } = choice;
  // Of the tool, or of what is taken hold of.
  const kind = id === 'select' ? (held ? kindOf(held) : 'cover') : id;
  const palette = kind === 'highlight' ? highlighters : inks;
  const colour = kind === 'cover' ? null : id === 'select' ? (held as { colour: MarkColour }).colour : choice.colours[kind];
  const chooseColour = (next: MarkColour) =>
    id === 'select' ? onRestyle(held!, { colour: next }) : kind !== 'cover' && onChoice({ ...choice, colours: { ...choice.colours, [kind]: next } }); // prettier-ignore
  const isWidth = (n: 0 | 1 | 2) => {
    if (id !== 'select' || !held || kind === 'cover') return width === n;
    return 'sizePt' in held ? held.sizePt === sizesPt[n] : 'widthMm' in held && kind !== 'note' && held.widthMm === widthsMm[kind][n]; // prettier-ignore
  };
  const chooseWidth = (n: 0 | 1 | 2) => {
    if (id !== 'select') return onChoice({ ...choice, width: n });
    if (kind === 'note') onRestyle(held!, { sizePt: sizesPt[n] });
    else if (kind !== 'cover') onRestyle(held!, { widthMm: widthsMm[kind][n] });
  };
  return (
    <View style={{ padding: 12, gap: 10 }}>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', alignContent: 'center', minHeight: 96 }}>
        {id === 'select' ? (
          held ? (
            <>
              {'text' in held ? (
                <Action icon="pencil" onPress={() => onEdit(held)}>
                  {say('marks.edit')}
                </Action>
              ) : null}
              <Action icon="content-copy" onPress={() => onCopy(held)}>
                {say('common.copy')}
              </Action>
              <Action icon="delete-outline" onPress={() => onDelete(held.id)}>
                {say('common.delete')}
              </Action>
              {held.kind === 'part' ? (
                <View role="radiogroup" style={{ flexBasis: '100%', flexDirection: 'row', flexWrap: 'wrap' }}>
                  {[false, true].map((stays) => (
                    <Choice
                      key={String(stays)}
                      on={(held.stays ?? false) === stays}
                      label={say(stays ? 'marks.stays' : 'marks.leaves')}
                      onPress={() => onRestyle(held, { stays })}
                    >
                      <Text>{say(stays ? 'marks.stays' : 'marks.leaves')}</Text>
                    </Choice>
                  ))}
                </View>
              ) : null}
              <Text variant="bodySmall" style={{ color: t.pencil, flexBasis: '100%', paddingVertical: 4 }}>
                {say('marks.pull')}
              </Text>
            </>
          ) : (
            <Text style={{ color: t.pencil }}>{say('marks.selectHow')}</Text>
          )
        ) : null}
        {id === 'cover' ? (
          <>
            {areas.map((area) => (
              <Choice
                key={area}
                on={choice.area === area}
                label={say(`marks.${area}`)}
                onPress={() => onChoice({ ...choice, area })}
              >
                <Text>{say(`marks.${area}`)}</Text>
              </Choice>
            ))}
            <View style={{ width: 12 }} />
            {choice.area !== 'move'
              ? coverFills.map((fill) => (
                  <Choice
                    key={fill}
                    on={choice.fill === fill}
                    label={say(`marks.fill.${fill}`)}
                    onPress={() => onChoice({ ...choice, fill })}
                  >
                    <Text>{say(`marks.fill.${fill}`)}</Text>
                  </Choice>
                ))
              : null}
            <Text variant="bodySmall" style={{ color: t.pencil, flexBasis: '100%' }}>
              {say(choice.area === 'move' ? 'marks.moveAbout' : 'marks.coverAbout')}
            </Text>
          </>
        ) : null}
        {id === 'shapes'
          ? shapes.map((shape) => (
              <Choice
                key={shape}
                on={choice.shape === shape}
                label={say(`marks.shape.${shape}`)}
                onPress={() => onChoice({ ...choice, shape })}
              >
                <Text variant="bodySmall">{say(`marks.shape.${shape}`)}</Text>
              </Choice>
            ))
          : null}
        {id === 'note'
          ? noteKinds.map((writes) => (
              <Choice
                key={writes}
                on={choice.writes === writes}
                label={say(`marks.writes.${writes}`)}
                onPress={() => {
                  onChoice({ ...choice, writes });
                  if (writes === 'signature' && (!signed || choice.writes === 'signature')) onSign();
                }}
              >
                <Text variant="bodySmall">{say(`marks.writes.${writes}`)}</Text>
              </Choice>
            ))
          : null}
        {kind !== 'cover'
          ? ([0, 1, 2] as const).map((n) => (
              <Choice
                key={n}
                on={isWidth(n)}
                label={
                  kind === 'note' ? say('marks.points', { value: sizesPt[n] }) : say('marks.width', { value: widthsMm[kind][n] })
                }
                onPress={() => chooseWidth(n)}
              >
                {kind === 'note' ? (
                  <Text style={{ fontSize: sizesPt[n] }}>{say('marks.letter')}</Text>
                ) : (
                  <View
                    style={{
                      width: 26,
                      height: kind === 'highlight' ? 6 + 5 * n : 2 + 3 * n,
                      borderRadius: 6,
                      backgroundColor: palette[colour!],
                    }}
                  />
                )}
              </Choice>
            ))
          : null}
        {colour
          ? markColours.map((each) => (
              <Choice key={each} on={colour === each} label={say(`marks.colour.${each}`)} onPress={() => chooseColour(each)}>
                <View
                  style={{
                    width: 24,
                    height: 24,
                    borderRadius: 12,
                    borderTopRightRadius: 4,
                    backgroundColor: palette[each],
                    borderWidth: 1,
                    borderColor: t.hairline,
                  }}
                />
              </Choice>
            ))
          : null}
      </View>
      <View role="radiogroup" aria-label={say('page.marks')} style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
        {toolIds.map((each) => (
          <TouchableRipple
            key={each}
            role="radio"
            aria-checked={id === each}
            aria-label={say(`marks.tool.${each}`)}
            onPress={() => onChoice({ ...choice, id: each })}
            style={{ flex: 1, minHeight: 56, alignItems: 'center', justifyContent: 'center' }}
          >
            <View style={{ alignItems: 'center', gap: 2 }}>
              <Sign source={icons[each]} size={24} color={id === each ? t.wine : t.pencil} />
              <Text variant={id === each ? 'labelMedium' : 'bodySmall'} style={{ color: id === each ? t.wine : t.pencil }}>
                {say(`marks.tool.${each}`)}
              </Text>
            </View>
          </TouchableRipple>
        ))}
      </View>
    </View>
  );
}

function Choice({
  on,
  label,
  onPress,
  children,
}: {
  on: boolean;
  label: string;
  onPress: () => void;
  children: React.ReactNode;
}) {
  const t = useTokens();
  return (
    <TouchableRipple
      role="radio"
      aria-checked={on}
      aria-label={label}
      onPress={onPress}
      style={{
        minWidth: 44,
        minHeight: 44,
        paddingHorizontal: 8,
        alignItems: 'center',
        justifyContent: 'center',
        borderRadius: corner,
        borderWidth: on ? 2 : 1,
        borderColor: on ? t.wine : 'transparent',
      }}
    >
      <View>{children}</View>
    </TouchableRipple>
  );
}
