import type { Summary } from '@libretto/model';
import { binDocuments } from '../store/filing';
import { useAppDispatch } from '../store/store';
import { Bar, BarAction } from '../ui/BarAction';
import { MoreMenu } from '../ui/MoreMenu';
import { useKeys } from '../ui/useKeys';
import { useSay } from '../ui/words/words';

export interface ShelfBarProps {
  documents: readonly Summary[];
  onAsk: (what: 'file' | 'tags' | 'rename' | 'join' | 'backup') => void;
  onSend?: () => void;
  onEnd: () => void;
}

/** What can be done with the documents that are chosen. */
export function ShelfBar({ documents, onAsk, onSend, onEnd }: ShelfBarProps) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const none = !documents.length;
  const bin = () => {
    if (none) return;
    void dispatch(binDocuments(documents));
    onEnd();
  };
  useKeys({ escape: onEnd, delete: bin, m: () => !none && onAsk('file'), s: () => !none && onSend?.() });
  return (
    <Bar label={say('shelf.bar')}>
      {onSend ? <BarAction icon="send" label={say('common.send')} disabled={none} onPress={onSend} /> : null}
      <BarAction icon="folder-outline" label={say('folder.file')} disabled={none} onPress={() => onAsk('file')} />
      <BarAction icon="tag-outline" label={say('tags.title')} disabled={none} onPress={() => onAsk('tags')} />
      <BarAction icon="delete-outline" label={say('common.delete')} disabled={none} onPress={bin} />
      <MoreMenu
        label={say('common.more')}
        entries={[
          { icon: 'pencil', title: say('shelf.rename'), onPress: () => onAsk('rename') },
          { icon: 'set-merge', title: say('shelf.join'), disabled: documents.length < 2, onPress: () => onAsk('join') },
          { icon: 'cellphone-arrow-down', title: say('shelf.backup'), onPress: () => onAsk('backup') },
        ]}
      >
        {(open) => <BarAction menu icon="dots-horizontal" label={say('common.more')} disabled={none} onPress={open} />}
      </MoreMenu>
    </Bar>
  );
}
