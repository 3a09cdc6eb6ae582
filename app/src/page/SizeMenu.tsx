import { namedSizes } from '@libretto/core/rectify/pageSize';
import type { Page } from '@libretto/model';
import { Action } from '../ui/Action';
import { MoreMenu } from '../ui/MoreMenu';
import { setSize } from '../store/editing';
import { useSay } from '../ui/words/words';
import { sizeOfKey } from '../ui/words/format';
import { useAppDispatch } from '../store/store';

/** One photo holds no scale: where the size that was taken is wrong, it is said here. */
export function SizeMenu({ page }: { page: Page }) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const wide = page.made ? page.made.widthMm > page.made.heightMm !== (page.recipe!.turn % 180 !== 0) : false;
  const choose = (size: (typeof namedSizes)[number]) => {
    const [short, long] = [Math.min(size.widthMm, size.heightMm), Math.max(size.widthMm, size.heightMm)];
    void dispatch(setSize(page, { widthMm: wide ? long : short, heightMm: wide ? short : long, name: size.id }));
  };
  const entries = [
    { title: say('edges.sizeFromPhoto'), onPress: () => void dispatch(setSize(page, undefined)) },
    ...namedSizes.map((size) => ({
      title: say('size.named', {
        name: sizeOfKey(say, size.id),
        size: say('size.mm', { width: size.widthMm, height: size.heightMm }),
      }),
      onPress: () => choose(size),
    })),
  ];
  return (
    <MoreMenu label={say('edges.size')} entries={entries}>
      {(open) => (
        <Action compact onPress={open}>
          {say('edges.size')}
        </Action>
      )}
    </MoreMenu>
  );
}
