import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Document, Page } from '@libretto/model';
import { placePages, sendPages, type Target } from '../store/arranging';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { Heading } from '../ui/Heading';
import { Over } from '../ui/Over';
import { SwitchRow } from '../ui/SwitchRow';
import { SearchField } from '../ui/SearchField';
import { Sign } from '../ui/Sign';
import { Stitches } from '../ui/Stitches';
import { useTokens } from '../ui/theme';
import { VirtualList } from '../ui/VirtualList';
import { useSay } from '../ui/words/words';
import { documentsOnShelf } from './shelfRows';

export interface MoveSheetProps {
  document: Document;
  all: readonly Page[];
  pages: readonly Page[];
  onClose: () => void;
  /** Pages have gone; `to`: the document to show, when nothing is left of this one or a new one was made. */
  onMoved: (to: string | null) => void;
}

const rowPx = 58;
const mostShown = 200;

/** Where the chosen pages go: elsewhere in this document, into a new one, or into another. */
export function MoveSheet({ document, all, pages, onClose, onMoved }: MoveSheetProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const [copy, setCopy] = useState(false);
  const [query, setQuery] = useState('');
  const [after, setAfter] = useState('');
  const [busy, setBusy] = useState(false);
  const shelf = useApp(documentsOnShelf);
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const others = shelf
    .filter((d) => d.id !== document.id && words.every((w) => d.name.toLowerCase().includes(w)))
    .slice(0, mostShown);
  const rest = all.filter((p) => !pages.includes(p));
  const within = (anchor: string | null) => {
    void dispatch(placePages(document, pages, anchor));
    onMoved(null);
  };
  const go = async (target: Target) => {
    if (busy) return;
    setBusy(true);
    const { id, emptied } = await dispatch(sendPages(document, pages, target, copy));
    onMoved(emptied || 'newName' in target ? id : null);
  };
  const folio = Number(after);
  const anchor = Number.isInteger(folio) && folio >= 1 && folio <= all.length ? all[folio - 1]! : null;
  // After a page that goes along: after the last one before it that stays.
  const stays = anchor ? all.slice(0, all.indexOf(anchor) + 1).findLast((p) => !pages.includes(p)) : undefined;
  return (
    <Over low label={say('select.moveTitle', { count: pages.length })} maxWidth={560} onClose={onClose}>
      <View style={{ padding: 16, gap: 12 }}>
        <Heading level={2} variant="titleLarge">
          {say(copy ? 'select.copyTitle' : 'select.moveTitle', { count: pages.length })}
        </Heading>
        <SwitchRow label={say('select.copy')} on={copy} onPress={() => setCopy(!copy)} />
        {copy || !rest.length ? null : (
          <View style={{ gap: 8 }}>
            <Text variant="labelLarge">{say('select.here')}</Text>
            <View style={{ flexDirection: 'row', gap: 8, alignItems: 'center', flexWrap: 'wrap' }}>
              <Action onPress={() => within(null)}>{say('select.first')}</Action>
              <Action onPress={() => within(rest.at(-1)!.id)}>{say('select.last')}</Action>
              <Field
                value={after}
                onChangeText={setAfter}
                inputMode="numeric"
                label={say('select.after')}
                maxLength={4}
                onSubmitEditing={() => anchor && within(stays?.id ?? null)}
                style={{ width: 110 }}
              />
              <Action disabled={!anchor} onPress={() => within(stays?.id ?? null)}>
                {say('select.put')}
              </Action>
            </View>
            <Stitches />
          </View>
        )}
        <Action
          icon="image-plus"
          disabled={busy}
          onPress={() => void go({ newName: say('select.newName', { name: document.name }).slice(0, 200) })}
          style={{ alignSelf: 'flex-start' }}
        >
          {say('select.asNew')}
        </Action>
        {shelf.length > 1 ? (
          <>
            <Text variant="labelLarge">{say('select.other')}</Text>
            {shelf.length > 6 ? <SearchField value={query} label={say('shelf.search')} onChange={setQuery} /> : null}
            <VirtualList
              label={say('select.other')}
              style={{ height: Math.min(4.5, Math.max(1, others.length)) * rowPx }}
              count={others.length}
              keyOf={(i) => others[i]!.id}
              sizeOf={() => rowPx}
              render={(i) => {
                const { id, name, pages: count } = others[i]!;
                return (
                  <Pressable
                    role="button"
                    disabled={busy}
                    onPress={() => void go({ id, name })}
                    style={{
                      flexDirection: 'row',
                      alignItems: 'center',
                      gap: 12,
                      minHeight: rowPx,
                      borderBottomWidth: 1,
                      borderColor: t.hairline,
                    }}
                  >
                    <Sign source="file-move-outline" size={22} color={t.pencil} />
                    <View style={{ flex: 1, minWidth: 0 }}>
                      <Text numberOfLines={1}>{name}</Text>
                      <Text variant="bodySmall" style={{ color: t.pencil }}>
                        {say('pages', { count })}
                      </Text>
                    </View>
                  </Pressable>
                );
              }}
            />
            {others.length ? null : <Text style={{ color: t.pencil }}>{say('shelf.noMatch', { query })}</Text>}
          </>
        ) : null}
        <Action onPress={onClose}>{say('common.cancel')}</Action>
      </View>
    </Over>
  );
}
