import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Page } from '@libretto/model';
import { codeMeaning } from '@libretto/text/codeMeaning';
import type { ReadText } from '../store/files';
import { noticed } from '../store/session';
import { useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import type { Taken } from '../work/words.worker';

import { ContactSheet, TableSheet } from './lazy';

export interface TakeOutProps {
  page: Page;
  text: ReadText;
  taken: Taken;
}

/** What stands on the page as more than words: tables, somebody's card, codes. */
export function TakeOut({ page, text, taken: { tables, contact, card } }: TakeOutProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const [table, setTable] = useState<number | null>(null);
  const [asContact, setAsContact] = useState(false);
  const codes = text.codes ?? [];
  const somebody = contact.find((p) => p.field === 'name') ?? contact.find((p) => p.field === 'organisation');
  const reached = contact.some((p) => p.field === 'phone' || p.field === 'mail');
  if (!tables.length && !codes.length && !(somebody && reached)) return null;
  const copy = (content: string) =>
    navigator.clipboard.writeText(content).then(
      () => dispatch(noticed({ code: 'notice.copied' })),
      () => dispatch(noticed({ code: 'notice.notCopied' })),
    );
  return (
    <View
      role="list"
      aria-label={say('take.label')}
      style={{ gap: 8, borderTopWidth: 1, borderColor: t.hairline, paddingTop: 12 }}
    >
      {tables.map((its, i) => (
        <Row
          key={i}
          what={say('take.table', { rows: its.rows.length, columns: its.rows[0]!.length })}
          more={heading(its.rows[0]!)}
        >
          <Action icon="table" onPress={() => setTable(i)}>
            {say('take.tableOut')}
          </Action>
        </Row>
      ))}
      {somebody && (card || reached) ? (
        <Row what={say('take.contact')} more={somebody.value}>
          <Action icon="card-account-details-outline" onPress={() => setAsContact(true)}>
            {say('take.contactOut')}
          </Action>
        </Row>
      ) : null}
      {codes.map((code, i) => (
        <Row
          key={`code ${i}`}
          what={say('take.code', { kind: code.kind, meaning: say(`take.meaning.${codeMeaning(code.text)}`) })}
          more={code.text}
          whole
        >
          {codeMeaning(code.text) === 'link' ? (
            <Action icon="open-in-new" onPress={() => window.open(code.text.trim(), '_blank', 'noopener,noreferrer')}>
              {say('take.open')}
            </Action>
          ) : null}
          <Action icon="content-copy" onPress={() => void copy(code.text)}>
            {say('common.copy')}
          </Action>
        </Row>
      ))}
      {table !== null && tables[table] ? (
        <TableSheet page={page} text={text} table={tables[table]} onClose={() => setTable(null)} />
      ) : null}
      {asContact ? <ContactSheet page={page} parts={contact} onClose={() => setAsContact(false)} /> : null}
    </View>
  );
}

const heading = (row: readonly ({ text: string } | null)[]) => row.flatMap((cell) => cell?.text || []).join(' · ');

interface RowProps {
  what: string;
  more: string;
  /** All of it is shown, however long: what a code leads to is to be seen before it is opened. */
  whole?: boolean;
  children: ReactNode;
}

function Row({ what, more, whole = false, children }: RowProps) {
  const t = useTokens();
  return (
    <View role="listitem" style={{ gap: 4 }}>
      <Text variant="labelLarge">{what}</Text>
      <Text
        selectable
        {...(!whole && { numberOfLines: 1 })}
        style={{ color: t.pencil, ...(whole && { wordBreak: 'break-all' as never }) }}
      >
        {more}
      </Text>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>{children}</View>
    </View>
  );
}
