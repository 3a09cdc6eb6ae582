const page = (title: string, body: string) => `<!doctype html><html lang="en"><meta charset="utf-8">
<meta name="viewport" content="width=device-width, viewport-fit=cover"><meta name="color-scheme" content="light dark"><title>${title} · Libretto</title>
<style>
:root{--paper:#faf6ee;--leaf:#fffdf8;--ink:#26211e;--pencil:#6a6059;--line:#b9ad9d;--wine:#6e1f3a;--on:#fffdf8;--rust:#9c2f14}
@media(prefers-color-scheme:dark){:root{--paper:#1d1917;--leaf:#262120;--ink:#f1e9dd;--pencil:#b5a99b;--line:#6a6059;--wine:#e2a0b4;--on:#2a1018;--rust:#f0a58c}}
body{font:17px/1.5 system-ui,sans-serif;margin:0;background:var(--paper);color:var(--ink)}
main{max-width:24rem;margin:12vh auto;padding:0 20px}h1{font:600 28px/1.2 Georgia,serif;color:var(--wine);margin:0 0 12px}
label{display:block;font-weight:600;margin:20px 0 6px}input,button{font:inherit;width:100%;box-sizing:border-box;min-height:48px;border-radius:4px;padding:0 14px}
input{border:1px solid var(--line);background:var(--leaf);color:var(--ink);font-size:17px}button{border:0;background:var(--wine);color:var(--on);font-weight:600;margin-top:16px}
:focus-visible{outline:3px solid var(--wine);outline-offset:2px}.fault{color:var(--rust);font-weight:600}p{color:var(--pencil)}
</style><main><h1>Libretto</h1>${body}</main></html>`;

/** Asks for the pass phrase. */
export const signInPage = (fault = '') =>
  page(
    'Sign in',
    `<p>This Libretto asks who comes from the network.</p>
<form method="post" action="/sign-in"><label for="phrase">Pass phrase</label>
<input id="phrase" name="phrase" type="password" autocomplete="current-password" autocapitalize="none" autocorrect="off" spellcheck="false" required${fault ? ' aria-invalid="true" aria-describedby="fault"' : ''}>
${fault ? `<p id="fault" class="fault" role="alert">${fault}</p>` : ''}<button>Sign in</button></form>
<p>Quicker: open <b>Use on a phone</b> on the computer, and scan the code there.</p>`,
  );

/** Offers what a scanned code allows: one tap, so that a link that is only looked at pairs nobody. */
export const pairPage = () =>
  page(
    'Pair this device',
    `<p>This device and this Libretto will know each other from now on. On the computer the device can be removed again.</p>
<form method="post"><button autofocus>Pair this device</button></form>`,
  );

export const refusedPage = () =>
  page(
    'Code used up',
    `<p class="fault" role="alert">This code has been used, or is older than ten minutes.</p>
<p>Show a new one on the computer and scan that, or <a href="/sign-in">sign in with the pass phrase</a>.</p>`,
  );
