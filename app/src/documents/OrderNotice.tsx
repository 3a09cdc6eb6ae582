import { useState } from 'react';
import { Button } from 'react-native-paper';
import type { Document, Page } from '@libretto/model';
import { orderPages } from '../store/arranging';
import { setNumbersSeen } from '../store/editing';
import { useAppDispatch } from '../store/store';
import { Banner } from '../ui/Banner';
import { useSay } from '../ui/words/words';
import { usePageNumbers } from '../work/usePageNumbers';
import { OrderSheet } from './OrderSheet';

/** What the printed page numbers say: a page is missing, or another order. Nothing is done by itself. */
export function OrderNotice({ document, pages }: { document: Document; pages: readonly Page[] }) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const said = usePageNumbers(pages);
  const [asking, setAsking] = useState(false);
  if (!said || (!said.order && !said.missing.length)) return null;
  const seen = JSON.stringify([said.missing, said.order]);
  if (document.numbersSeen === seen) return null;
  const ids = said.order?.map((at) => pages[at]!.id);
  return (
    <>
      <Banner
        tone="attention"
        title={
          ids
            ? say('document.numbersOrder')
            : say('document.numbersMissing', { count: said.missing.length, numbers: said.missing.join(', ') })
        }
      >
        {ids ? (
          <Button mode="text" compact onPress={() => setAsking(true)}>
            {say('document.numbersSee')}
          </Button>
        ) : null}
        <Button mode="text" compact onPress={() => void dispatch(setNumbersSeen(document, seen))}>
          {say('common.dismiss')}
        </Button>
      </Banner>
      {asking && ids ? (
        <OrderSheet
          title={say('document.numbersOrderTitle')}
          order={ids}
          pages={pages}
          onClose={() => setAsking(false)}
          onUse={() => {
            setAsking(false);
            void dispatch(orderPages(document, ids, { code: 'notice.ordered', values: { count: ids.length } }));
          }}
        />
      ) : null}
    </>
  );
}
