import type { Summary } from '@libretto/model';
import { binDocuments } from '../store/filing';
import { useAppDispatch } from '../store/store';
import { Bar, BarAction } from '../ui/BarAction';
import { useKeys } from '../ui/useKeys';
import { useSay } from '../ui/words/words';

export interface ShelfBarProps {
  documents: readonly Summary[];
  onAsk: (what: 'file' | 'tags' | 'join' | 'backup') => void;
  onEnd: () => void;
}

/** What can be done with the documents that are chosen. */
export function ShelfBar({ documents, onAsk, onEnd }: ShelfBarProps) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const none = !documents.length;
  const bin = () => {
    if (none) return;
    void dispatch(binDocuments(documents));
    onEnd();
  };
  useKeys({ escape: onEnd, delete: bin, m: () => !none && onAsk('file') });
  return (
    <Bar label={say('shelf.bar')}>
      <BarAction icon="folder-outline" label={say('folder.file')} disabled={none} onPress={() => onAsk('file')} />
      <BarAction icon="tag-outline" label={say('tags.title')} disabled={none} onPress={() => onAsk('tags')} />
      <BarAction icon="set-merge" label={say('shelf.join')} disabled={documents.length < 2} onPress={() => onAsk('join')} />
      <BarAction icon="cellphone-arrow-down" label={say('common.save')} disabled={none} onPress={() => onAsk('backup')} />
      <BarAction icon="delete-outline" label={say('common.delete')} disabled={none} onPress={bin} />
    </Bar>
  );
}
