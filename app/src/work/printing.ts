/** A picture that fills a sheet of paper. */
export interface PrintedPage {
  blob: Blob;
  widthMm: number;
  heightMm: number;
}

/** How long a frame stays after its pages have been handed to the print dialog, where it does not say that it is done, ms. */
const keptMs = 10 * 60_000;

/** Hands pages to the browser's print dialog, each on a sheet of its own size. Settles when they have been handed over. */
export async function printPages(pages: readonly PrintedPage[]): Promise<void> {
  const frame = document.createElement('iframe');
  // Not hidden: some engines print nothing of a frame that is.
  Object.assign(frame.style, {
    position: 'fixed',
    right: '0',
    bottom: '0',
    width: '1px',
    height: '1px',
    border: '0',
    opacity: '0',
  });
  frame.setAttribute('aria-hidden', 'true');
  frame.tabIndex = -1;
  document.body.append(frame);
  const urls: string[] = [];
  const clear = () => {
    urls.forEach((url) => URL.revokeObjectURL(url));
    frame.remove();
  };
  try {
    const inside = frame.contentDocument!;
    const own = frame.contentWindow!;
    const rules = ['body { margin: 0 }'];
    const pictures = pages.map(({ blob, widthMm, heightMm }, i) => {
      rules.push(`@page sheet${i} { size: ${widthMm}mm ${heightMm}mm; margin: 0 }`);
      const picture = inside.createElement('img');
      const url = URL.createObjectURL(blob);
      urls.push(url);
      picture.src = url;
      // A little less than the sheet, so that rounding makes no second one.
      Object.assign(picture.style, { display: 'block', width: `${widthMm}mm`, height: `${heightMm - 0.2}mm`, page: `sheet${i}`, breakAfter: i < pages.length - 1 ? 'page' : 'auto' }); // prettier-ignore
      inside.body.append(picture);
      return picture;
    });
    const style = inside.createElement('style');
    inside.head.append(style);
    // Rules by their objects: no inline style that a strict Content-Security-Policy would refuse.
    for (const rule of rules) style.sheet!.insertRule(rule, style.sheet!.cssRules.length);
    await Promise.all(pictures.map((picture) => picture.decode()));
    own.addEventListener('afterprint', () => setTimeout(clear, 1000));
    setTimeout(clear, keptMs);
    own.focus();
    own.print();
  } catch (error) {
    clear();
    throw error;
  }
}
