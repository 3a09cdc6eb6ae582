import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, type ViewStyle } from 'react-native';
import type { Summary } from '@libretto/model';
import type { TextHit } from '../work/searching';
import type { DocumentActions } from './DocumentRow';
import { draggedDocuments } from './FolderRow';

/** What lets a document be dragged to a folder. */
export const draggable = (id: string) => ({
  draggable: true,
  onDragStart: (event: React.DragEvent) => {
    event.dataTransfer.setData(draggedDocuments, id);
    event.dataTransfer.effectAllowed = 'move';
  },
});

export interface DocumentLinkProps {
  summary: Summary;
  testID: string;
  selected: boolean;
  /** Whether it is chosen, while documents are being chosen. */
  chosen?: boolean | undefined;
  /** Where on its pages it is opened. */
  hit?: TextHit | undefined;
  actions: DocumentActions;
  style: ViewStyle;
  children: ReactNode;
}

/** Opens a document, or chooses it while documents are being chosen. */
export function DocumentLink({ summary, testID, selected, chosen, hit, actions, style, children }: DocumentLinkProps) {
  const choosing = chosen !== undefined;
  return (
    <Link
      href={
        hit
          ? `/document/${summary.id}/page/${hit.pageId}?drawer=text&find=${encodeURIComponent(hit.query)}`
          : `/document/${summary.id}`
      }
      asChild
      {...(choosing && {
        onPress: (event: { preventDefault: () => void }) => {
          event.preventDefault();
          actions.toggle(summary.id, (event as { shiftKey?: boolean }).shiftKey === true);
        },
      })}
    >
      <Pressable
        testID={testID}
        aria-current={selected ? 'true' : undefined}
        {...(choosing && { role: 'checkbox', 'aria-checked': chosen })}
        onLongPress={() => actions.toggle(summary.id, false)}
        style={style}
      >
        {children}
      </Pressable>
    </Link>
  );
}
