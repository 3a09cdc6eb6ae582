/** What is not stored yet: while there is any, closing the tab asks. */
const under = new Set<object>();
let listening = false;

const ask = (event: BeforeUnloadEvent) => {
  event.preventDefault();
  event.returnValue = '';
};

function listen(): void {
  const wanted = under.size > 0;
  if (typeof window === 'undefined' || wanted === listening) return;
  listening = wanted;
  // For whoever looks from outside, as tests do.
  window.document?.documentElement.toggleAttribute('data-saving', wanted);
  // Only while it is needed: a page that listens is not kept for going back to.
  if (wanted) window.addEventListener('beforeunload', ask);
  else window.removeEventListener('beforeunload', ask);
}

/** Notes that something is being stored, until it has been. */
export async function untilSaved<T>(work: Promise<T>): Promise<T> {
  const mark = {};
  under.add(mark);
  listen();
  try {
    return await work;
  } finally {
    under.delete(mark);
    listen();
  }
}

export const isSaving = (): boolean => under.size > 0;
