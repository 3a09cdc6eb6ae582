import { useEffect, useMemo, useState } from 'react';
import { Image } from 'react-native';
import { Text } from 'react-native-paper';
import { mostSlipPlaces, slipSheet, type Slip } from '@libretto/model/slip';
import { newId } from '../store/ids';
import { noticed } from '../store/session';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { SwitchRow } from '../ui/SwitchRow';
import { Sheet } from '../ui/Sheet';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import { filePool } from '../work/pools';
import { priority } from '../work/pool';
import { printPages } from '../work/printing';
import { saveBlob } from '../work/saveBlob';
import { drawSlip } from './drawSlip';
import type { TypedFor } from './PlaceDetails';
import { PlacesToChoose, useDetails } from './PlacesToChoose';
import { keepSlip, slipKey } from '../work/slips';

/** Of the picture beside what is typed: it is drawn anew with every letter. */
const previewDpi = 110;

/** Makes a cover slip: a sheet that, photographed in front of pages, says what they are called and where they go. */
export function SlipSheet({ onClose }: { onClose: () => void }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const known = useApp((s) => s.library.place);
  const [id] = useState(newId);
  const [name, setName] = useState('');
  const [typed, setTyped] = useState<Record<string, TypedFor>>({});
  const [pen, setPen] = useState(true);
  const [busy, setBusy] = useState(false);
  const [preview, setPreview] = useState('');
  const details = useDetails(typed);
  const full = Object.keys(typed).length > mostSlipPlaces;
  const incomplete = full || Object.values(details).includes(null);
  const key = JSON.stringify([name, details, pen]);
  const slip = useMemo((): Slip => {
    const places = Object.entries(details).flatMap(([place, told]) => {
      const { name: called } = known[place]!;
      return told ? [{ id: place, name: called, ...(Object.keys(told).length && { details: told }) }] : [];
    });
    return { libretto: 'slip', v: 1, id, name: name.trim().replace(/\s+/g, ' '), places: places.slice(0, mostSlipPlaces), pen };
    // All that it is made of is in the key.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  useEffect(() => {
    let wanted = true;
    void drawSlip(slip, say, previewDpi).then((canvas) => {
      if (wanted) setPreview(canvas.toDataURL('image/png'));
    });
    return () => {
      wanted = false;
    };
  }, [slip, say]);

  const make = async (
    then: (page: { blob: Blob; width: number; height: number; widthMm: number; heightMm: number }) => Promise<void>,
  ) => {
    if (busy || incomplete) return;
    setBusy(true);
    try {
      const canvas = await drawSlip(slip, say);
      const blob = await new Promise<Blob>((done, failed) => canvas.toBlob((made) => (made ? done(made) : failed(new Error('no picture'))), 'image/jpeg', 0.9)); // prettier-ignore
      // Before it leaves: a slip that was printed is known.
      await dispatch(keepSlip(await slipKey(slip)));
      await then({ blob, width: canvas.width, height: canvas.height, widthMm: slipSheet.widthMm, heightMm: slipSheet.heightMm });
    } catch (error) {
      dispatch(noticed({ code: 'notice.notMade', values: { reason: (error as Error).message } }));
    } finally {
      setBusy(false);
    }
  };
  const title = slip.name ? say('slip.file', { name: slip.name }) : say('slip.title');
  const save = () =>
    make(async (page) => {
      const now = Date.now();
      const { blob } = await filePool.run((api) => api.pdf([page], { title, created: now, changed: now }), priority.export);
      saveBlob(blob, `${title.replace(/[\\/:*?"<>|]/g, '-')}.pdf`);
    });
  return (
    <Sheet title={say('slip.make')} onClose={onClose}>
      <Text style={{ color: t.pencil }}>{say('slip.about')}</Text>
      <Field label={say('slip.nameField')} value={name} onChangeText={setName} maxLength={120} />
      <Text variant="labelLarge">{say('slip.places')}</Text>
      <PlacesToChoose
        typed={typed}
        onToggle={(place) => setTyped(({ [place]: before, ...others }) => (before ? others : { ...others, [place]: {} }))}
        onType={(place, one) => setTyped((all) => ({ ...all, [place]: one }))}
      />
      {full ? (
        <Text role="alert" style={{ color: t.rust }}>
          {say('slip.tooMany', { count: mostSlipPlaces })}
        </Text>
      ) : null}
      {slip.places.length ? (
        <SwitchRow
          label={say('slip.pen')}
          about={say(pen ? 'slip.penAbout' : 'slip.noPenAbout')}
          on={pen}
          onPress={() => setPen(!pen)}
        />
      ) : null}
      {preview ? (
        <Image
          source={{ uri: preview }}
          accessibilityLabel={say('slip.preview')}
          resizeMode="contain"
          style={{ width: '100%', maxWidth: 300, alignSelf: 'center', aspectRatio: slipSheet.widthMm / slipSheet.heightMm, borderWidth: 1, borderColor: t.hairline }} // prettier-ignore
        />
      ) : null}
      <Action
        tall
        main
        icon="printer-outline"
        disabled={busy || incomplete}
        onPress={() => void make((page) => printPages([page]))}
      >
        {say('slip.print')}
      </Action>
      <Action disabled={busy || incomplete} onPress={() => void save()}>
        {say('slip.save')}
      </Action>
      <Action onPress={onClose}>{say('common.done')}</Action>
    </Sheet>
  );
}
