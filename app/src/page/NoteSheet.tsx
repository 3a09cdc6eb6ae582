import { useState } from 'react';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { Sheet } from '../ui/Sheet';
import { useSay } from '../ui/words/words';

/** What a note says. */
export function NoteSheet({ before, onKeep, onClose }: { before: string; onKeep: (text: string) => void; onClose: () => void }) {
  const say = useSay();
  const [text, setText] = useState(before);
  const clean = text.replace(/\s+$/, '');
  return (
    <Sheet title={say('marks.note')} onClose={onClose}>
      <Field
        autoFocus
        multiline
        numberOfLines={3}
        label={say('marks.noteText')}
        value={text}
        onChangeText={setText}
        maxLength={2000}
        style={{ minHeight: 92, paddingVertical: 10 }}
      />
      <Action main disabled={!clean.trim()} onPress={() => onKeep(clean)}>
        {say('common.done')}
      </Action>
      <Action onPress={onClose}>{say('common.cancel')}</Action>
    </Sheet>
  );
}
