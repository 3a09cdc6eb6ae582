import { useState } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { Text } from 'react-native-paper';
import { plainRows, sumsOf, type Cell, type TableRows } from '@libretto/model/content';
import { safeFileName, type Page } from '@libretto/model';
import type { Table } from '@libretto/text';
import type { ReadText } from '../store/files';
import { noticed } from '../store/session';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Heading } from '../ui/Heading';
import { Over } from '../ui/Over';
import { useTokens } from '../ui/theme';
import { fonts, touch } from '../ui/tokens';
import { useSay } from '../ui/words/words';
import { saveBlob } from '../work/saveBlob';
import { priority } from '../work/pool';
import { wordsPool } from '../work/pools';
import { joinedColumns, joinedRows, without } from './tableChanges';
import { sure } from './sure';

export interface TableSheetProps {
  page: Page;
  text: ReadText;
  table: Table;
  onClose: () => void;
}

/** A table of the page as a table: its cells put right, rows and columns joined or left out, then copied or saved. */
export function TableSheet({ page, text, table, onClose }: TableSheetProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const name = useApp((s) => s.library.document[page.documentId]?.name ?? '');
  const [rows, setRows] = useState<TableRows>(() => table.rows.map((row) => row.map((cell) => cell && { text: cell.text, ...(cell.across > 1 && { across: cell.across }), ...(cell.down > 1 && { down: cell.down }) }))); // prettier-ignore
  // What was read unsurely is marked until it is changed.
  const [doubtful] = useState(() => new Map(table.rows.flatMap((row) => row.flatMap((cell) => (cell && cell.right < sure ? [[cell.text, true]] : []))))); // prettier-ignore
  const sums = sumsOf(rows, text.language);
  const [chosen, setChosen] = useState<{ kind: 'row' | 'column'; at: number } | null>(null);
  const [before, setBefore] = useState<readonly TableRows[]>([]);
  const act = (next: TableRows) => {
    setBefore([...before, rows]);
    setRows(next);
    setChosen(null);
  };
  const undo = () => {
    setRows(before.at(-1)!);
    setBefore(before.slice(0, -1));
  };
  const handle = (kind: 'row' | 'column', at: number) => {
    const on = chosen?.kind === kind && chosen.at === at;
    return { on, onPress: () => setChosen(on ? null : { kind, at }) };
  };
  const change = (r: number, c: number, value: string) =>
    setRows(rows.map((row, y) => (y === r ? row.map((cell, x) => (x === c ? { ...cell, text: value } : cell)) : row)));
  const copy = async () => {
    const plain = plainRows(rows);
    try {
      const html = `<table>${plain.map((row) => `<tr>${row.map((cell) => `<td>${escaped(cell)}</td>`).join('')}</tr>`).join('')}</table>`;
      const tabbed = plain.map((row) => row.join('\t')).join('\n');
      await navigator.clipboard.write([new ClipboardItem({ 'text/html': new Blob([html], { type: 'text/html' }), 'text/plain': new Blob([tabbed], { type: 'text/plain' }) })]); // prettier-ignore
      dispatch(noticed({ code: 'notice.copied' }));
    } catch {
      dispatch(noticed({ code: 'notice.notCopied' }));
    }
  };
  const save = async (as: 'xlsx' | 'csv') => {
    const blob = await wordsPool.run((api) => api.table(rows, as, text.language), priority.export);
    saveBlob(blob, safeFileName(say('take.tableName', { name }), as));
  };
  const columns = rows[0]?.length ?? 0;
  return (
    <Over low label={say('take.tableOut')} maxWidth={980} onClose={onClose}>
      <View style={{ padding: 16, gap: 12, maxHeight: '100%', minHeight: 0 }}>
        <Heading level={2} variant="titleLarge">
          {say('take.table', { rows: rows.length, columns })}
        </Heading>
        <ScrollView style={{ flexShrink: 1 }}>
          <div style={{ overflowX: 'auto' }}>
            <table style={{ borderCollapse: 'collapse', fontFamily: fonts.text, color: t.ink, fontSize: '0.9375rem' }}>
              <thead>
                <tr>
                  <td />
                  {Array.from({ length: columns }, (_, c) => (
                    <td key={c} style={{ textAlign: 'center' }}>
                      <Handle label={say('take.column', { number: c + 1 })} number={c + 1} {...handle('column', c)} />
                    </td>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows.map((row, r) => (
                  <tr key={r}>
                    <td>
                      <Handle label={say('take.row', { number: r + 1 })} number={r + 1} {...handle('row', r)} />
                    </td>
                    {row.map((cell, c) =>
                      cell ? (
                        <td
                          key={c}
                          {...(cell.across && { colSpan: cell.across })}
                          {...(cell.down && { rowSpan: cell.down })}
                          style={{ border: `1px solid ${t.hairline}`, padding: 0 }}
                        >
                          <CellField
                            cell={cell}
                            label={say('take.cell', { row: r + 1, column: c + 1 })}
                            doubtful={doubtful.has(cell.text)}
                            onChange={(value) => change(r, c, value)}
                          />
                        </td>
                      ) : null,
                    )}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </ScrollView>
        {chosen ? (
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
            <Action
              disabled={chosen.at + 1 >= (chosen.kind === 'row' ? rows.length : columns)}
              onPress={() => act(chosen.kind === 'row' ? joinedRows(rows, chosen.at) : joinedColumns(rows, chosen.at))}
            >
              {say(chosen.kind === 'row' ? 'take.joinRow' : 'take.joinColumn')}
            </Action>
            <Action onPress={() => act(without(rows, chosen.kind, chosen.at))}>
              {say(chosen.kind === 'row' ? 'take.leaveRow' : 'take.leaveColumn')}
            </Action>
            {before.length ? (
              <Action icon="undo" onPress={undo}>
                {say('common.undo')}
              </Action>
            ) : null}
          </View>
        ) : before.length ? (
          <View style={{ flexDirection: 'row' }}>
            <Action icon="undo" onPress={undo}>
              {say('common.undo')}
            </Action>
          </View>
        ) : null}
        {doubtful.size ? (
          <Text variant="bodySmall" style={{ color: t.brass }}>
            {say('take.doubtful')}
          </Text>
        ) : null}
        {sums.map(({ column, says, sum }) => (
          <Text key={column} role="status" style={{ color: says === sum ? t.moss : t.brass }}>
            {say(says === sum ? 'take.addsUp' : 'take.addsUpTo', { column: column + 1, sum, says })}
          </Text>
        ))}
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
          <Action main icon="table" onPress={() => void save('xlsx')}>
            {say('take.saveXlsx')}
          </Action>
          <Action onPress={() => void save('csv')}>{say('take.saveCsv')}</Action>
          <Action icon="content-copy" onPress={() => void copy()}>
            {say('common.copy')}
          </Action>
          <Action onPress={onClose}>{say('common.done')}</Action>
        </View>
      </View>
    </Over>
  );
}

const escaped = (text: string) => text.replace(/[&<>]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[c]!);

interface CellFieldProps {
  cell: Cell;
  label: string;
  doubtful: boolean;
  onChange: (text: string) => void;
}

function CellField({ cell, label, doubtful, onChange }: CellFieldProps) {
  const t = useTokens();
  return (
    <input
      aria-label={label}
      value={cell.text}
      onChange={(event) => onChange(event.target.value)}
      size={Math.max(3, Math.min(30, cell.text.length + 3))}
      style={{
        font: 'inherit',
        color: t.ink,
        background: 'transparent',
        border: 0,
        minHeight: 44,
        width: '100%',
        // So that a narrow screen scrolls rather than cuts.
        minWidth: `${Math.min(30, cell.text.length) + 3}ch`,
        padding: '0 8px',
        boxSizing: 'border-box',
        ...(doubtful && { boxShadow: `inset 0 -3px 0 ${t.brass}` }),
      }}
    />
  );
}

interface HandleProps {
  label: string;
  number: number;
  on: boolean;
  onPress: () => void;
}

/** Chooses a row or a column, to do something with it. */
function Handle({ label, number, on, onPress }: HandleProps) {
  const t = useTokens();
  return (
    <Pressable
      role="button"
      aria-label={label}
      aria-pressed={on}
      onPress={onPress}
      style={{ minWidth: touch, minHeight: touch, alignItems: 'center', justifyContent: 'center' }}
    >
      <Text variant="bodySmall" style={{ color: on ? t.wine : t.pencil, fontWeight: on ? '700' : '400' }}>
        {number}
      </Text>
    </Pressable>
  );
}
