import { namedSizes } from '@libretto/core/rectify/pageSize';
import type { Page } from '@libretto/model';
import { Action } from '../../components/Action';
import { MoreMenu } from '../../components/MoreMenu';
import { setSize } from '../../state/editing';
import { useAppDispatch } from '../../state/store';

/** One photo holds no scale: where the size that was taken is wrong, it is said here. */
export function SizeMenu({ page }: { page: Page }) {
  const dispatch = useAppDispatch();
  const wide = page.made ? page.made.widthMm > page.made.heightMm !== (page.recipe!.turn % 180 !== 0) : false;
  const choose = (size: (typeof namedSizes)[number]) => {
    const [short, long] = [Math.min(size.widthMm, size.heightMm), Math.max(size.widthMm, size.heightMm)];
    dispatch(setSize(page, { widthMm: wide ? long : short, heightMm: wide ? short : long, name: size.id }));
  };
  const entries = [
    { title: 'As the photo tells', onPress: () => dispatch(setSize(page, undefined)) },
    ...namedSizes.map((size) => ({ title: `${size.label}, ${size.widthMm} × ${size.heightMm} mm`, onPress: () => choose(size) })),
  ];
  return (
    <MoreMenu label="Size" entries={entries}>
      {(open) => (
        <Action compact onPress={open}>
          Size
        </Action>
      )}
    </MoreMenu>
  );
}
