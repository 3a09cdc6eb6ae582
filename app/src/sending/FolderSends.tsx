import { useState } from 'react';
import { Text } from 'react-native-paper';
import type { Folder, SendDetails } from '@libretto/model';
import { foldersOf, setFolderSends } from '../store/filing';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Choice } from '../ui/Choice';
import { Sheet } from '../ui/Sheet';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { useSay } from '../ui/words/words';
import type { TypedFor } from './PlaceDetails';
import { PlacesToChoose, useDetails } from './PlacesToChoose';

/** Where a folder sends by itself, once there is such a folder. */
export function FolderSends({ folderId, onClose }: { folderId: string; onClose: () => void }) {
  const folder = useApp(foldersOf)[folderId];
  return folder ? <SendsSheet key={folderId} folder={folder} onClose={onClose} /> : null;
}

const typedOf = ({ to, cc, folder }: SendDetails): TypedFor => ({
  ...(to && { to: to.join(', ') }),
  ...(cc && { cc: cc.join(', ') }),
  ...(folder !== undefined && { folder }),
});

function SendsSheet({ folder, onClose }: { folder: Folder; onClose: () => void }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const [typed, setTyped] = useState<Record<string, TypedFor>>(() =>
    Object.fromEntries(Object.entries(folder.sendsTo ?? {}).map(([id, details]) => [id, typedOf(details)])),
  );
  const [unchecked, setUnchecked] = useState(folder.sendsUnchecked ?? false);
  const ids = Object.keys(typed);
  const now = useDetails(typed);
  // What is there no more is kept as it was, until it is taken off.
  const details: Record<string, SendDetails | null> = Object.fromEntries(ids.map((id) => [id, id in now ? now[id]! : (folder.sendsTo?.[id] ?? {})])); // prettier-ignore
  const incomplete = Object.values(details).includes(null);
  const toggle = (id: string) =>
    setTyped(({ [id]: before, ...others }) => (before ? others : { ...others, [id]: typedOf(folder.sendsTo?.[id] ?? {}) }));
  const keep = () => {
    if (incomplete) return;
    void dispatch(setFolderSends(folder, { sendsTo: details as Record<string, SendDetails>, sendsUnchecked: unchecked }));
    onClose();
  };
  useKeys({ 'mod+enter': keep }, { over: true });
  return (
    <Sheet title={say('byItself.title', { name: folder.name })} onClose={onClose}>
      <Text style={{ color: t.pencil }}>{say('byItself.about')}</Text>
      <PlacesToChoose typed={typed} onToggle={toggle} onType={(id, one) => setTyped((all) => ({ ...all, [id]: one }))} />
      {ids.length ? (
        <Choice
          label={say('byItself.when')}
          value={unchecked ? 'always' : 'checked'}
          options={[
            { value: 'checked', label: say('byItself.checked') },
            { value: 'always', label: say('byItself.always') },
          ]}
          onChange={(value) => setUnchecked(value === 'always')}
        />
      ) : null}
      <Action tall main disabled={incomplete} onPress={keep}>
        {say(ids.length || !folder.sendsTo ? 'common.done' : 'byItself.stop')}
      </Action>
      <Action onPress={onClose}>{say('common.cancel')}</Action>
    </Sheet>
  );
}
