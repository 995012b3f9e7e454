import type { Kind, Parts } from './kind';

const goods = (t: Parts, i: number) =>
  `<li>${t.picture(i, i)}<strong>${t(`goods${i + 1}`)}</strong><span>${t(`price${i + 1}`)}</span></li>`;

export const shop: Kind = {
  ground: '#fafbfb',
  words: {
    title: 'Shop: {business}',
    heading: 'On the shelf this week',
    ...Object.fromEntries(
      [1, 2, 3, 4].flatMap((n) => [
        [`goods${n}`, `Thing ${n}`],
        [`price${n}`, `${14 + 8 * n}`],
      ]),
    ),
  },
  html: ({ all }, t) =>
    `${t.head(0)}<main class="narrow">${all}<h2>${t('heading')}</h2><ul class="goods">${[0, 1, 2, 3].map((i) => goods(t, i)).join('')}</ul></main>${t.foot}`,
  css: `.page-shop .head{width:960px}.page .goods{list-style:none;padding:0;margin:0;display:grid;grid-template-columns:repeat(4,1fr);gap:20px}
.page .goods li{display:flex;flex-direction:column}.page .goods .drawn{aspect-ratio:4/5;height:auto;border-radius:6px;margin-bottom:8px}
@container (max-width:559px){.page .goods{grid-template-columns:repeat(2,1fr)}}`,
};

/** A payment page: one narrow column, its header asked for by address. */
export const checkout: Kind = {
  ground: '#f2f4f4',
  words: {
    title: 'Pay: {business}',
    first: 'Thing 2',
    firstPrice: '58.00',
    second: 'Thing 1',
    secondPrice: '34.00',
    sum: '92.00',
  },
  html: (
    { all },
    t,
  ) => `<main class="pay">${all}<div class="steps"><span class="done">Basket</span><span class="now">Pay</span><span>Done</span></div>
<div class="two"><div class="sheet"><p class="label">Name on the card</p><span class="line"></span><p class="label">Card number</p><span class="line"></span><div class="pair"><div><p class="label">Until</p><span class="line"></span></div><div><p class="label">Check digits</p><span class="line"></span></div></div><span class="paying">Pay ${t('sum')}</span></div>
<div class="basket"><h3>Your basket</h3><p>${t.picture(1, 1)}<span>${t('first')}<br>${t('firstPrice')}</span></p><p>${t.picture(0, 0)}<span>${t('second')}<br>${t('secondPrice')}</span></p><p class="sum"><strong>Together</strong><strong>${t('sum')}</strong></p></div></div></main>`,
  css: `.page-checkout .pay{width:752px;padding:28px 0 44px}.page-checkout .steps{display:flex;gap:10px;margin:18px 0;font-size:14px;color:var(--quiet)}.page-checkout .steps span{flex:1;border-top:3px solid var(--line);padding-top:6px}.page-checkout .steps .done,.page-checkout .steps .now{border-color:var(--accent);color:var(--ink)}.page-checkout .now{font-weight:600}
.page-checkout .two{display:grid;grid-template-columns:1fr 260px;gap:22px;align-items:start}.page-checkout .sheet,.page-checkout .basket{background:#fff;border:1px solid var(--line);border-radius:8px;padding:18px 22px 22px}
.page-checkout .pair{display:grid;grid-template-columns:1fr 1fr;gap:16px}
.page-checkout .paying{display:block;margin-top:20px;background:var(--accent);color:#fff;border-radius:6px;text-align:center;padding:10px;font-weight:600}
.page-checkout .basket p{display:flex;gap:14px;align-items:center;font-size:15px;margin:0 0 12px}.page-checkout .basket .drawn{width:64px;height:64px;border-radius:6px;flex:none}.page-checkout .sum{justify-content:space-between;border-top:1px solid var(--line);padding-top:12px}
@container (max-width:559px){.page-checkout .two{grid-template-columns:1fr}}`,
};

const SEVEN = [1, 2, 3, 4, 5, 6, 7];

/** A menu: a row of tiles, of which the page shows so many and no more. */
export const menuRow: Kind = {
  ground: '#fafbfb',
  words: {
    title: 'What we make: {business}',
    heading: 'What we make',
    ...Object.fromEntries(SEVEN.map((n) => [`name${n}`, `Kind ${n}`])),
    second: 'Made to be used',
    text: 'A few lines on what all of it has in common, and what happens when something breaks.',
    aside: 'On Fridays',
    asideText: 'What is left over, at the door',
  },
  html: ({ all, row }, t) =>
    `${t.head(0)}<main class="wide"><h2>${t('heading')}</h2><div class="row">${all}${row}</div><p class="names">${SEVEN.map((n) => `<span>${t(`name${n}`)}</span>`).join('')}</p><div class="columns"><article><h3>${t('second')}</h3><p>${t('text')}</p></article><aside><h3>${t('aside')}</h3><p>${t('asideText')}</p></aside></div></main>${t.foot}`,
  css: `.page-menu .wide{width:1240px}.page-menu .head{width:1240px}.page-menu .row{display:flex;gap:20px;padding:6px 0 10px;overflow:hidden}
.page-menu .names{display:flex;gap:20px;font-size:15px;font-weight:600}.page-menu .names span{width:160px;flex:none;text-align:center;max-width:calc((100% - 120px)/7)}
@container (max-width:899px){.page-menu .row{flex-wrap:wrap}.page-menu .names{display:none}}`,
};

/** The window: pictures of several sizes in a grid, as their set has it. */
export const mosaic: Kind = {
  ground: '#fafbfb',
  words: {
    title: 'In the window: {business}',
    heading: 'In the window this month',
    under: 'What came in this month, and what is spoken for already.',
  },
  html: ({ all }, t) =>
    `${t.head(0)}<main class="window"><h2>${t('heading')}</h2>${all}<p class="under">${t('under')}</p></main>${t.foot}`,
  css: `.page-mosaic .window{width:1050px}.page-mosaic .head{width:1050px}.page-mosaic .under{margin-top:14px;color:var(--quiet)}`,
};

/** One picture cut in equal squares. */
export const strip: Kind = {
  ground: '#fafbfb',
  words: {
    title: 'In a row: {business}',
    heading: 'Five at a time',
    first: 'What these five have in common, and when there are more.',
    second: 'What to know before you take one home.',
  },
  html: ({ all, row }, t) =>
    `${t.head(2)}<main class="few"><h2>${t('heading')}</h2><div class="squares">${all}${row}</div><p>${t('first')}</p><p>${t('second')}</p></main>${t.foot}`,
  css: `.page-strip .few{width:750px}.page-strip .head{width:750px}.page-strip .squares{display:flex;gap:20px;padding:4px 0 18px}
@container (max-width:899px){.page-strip .squares{flex-wrap:wrap}}`,
};
