import { drawnNames, foot, head, picture, type Drawn, type Kind } from './kind';

const pot = (what: Drawn, clay: number, name: string, price: string) =>
  `<li>${picture(what, clay)}<strong>${name}</strong><span>${price}</span></li>`;

export const shop: Kind = {
  title: 'Shop: Ottermill Pottery',
  ground: '#fbf8f2',
  html: ({ all }) =>
    `${head('Shop')}<main class="narrow">${all}<h2>On the shelf this week</h2><ul class="pots">${pot('bowl', 0, 'Ash bowl', '34')}${pot(
      'jug',
      1,
      'Stream jug',
      '58',
    )}${pot('mug', 2, 'Morning mug', '22')}${pot('bottle', 3, 'Tall bottle', '64')}</ul></main>${foot}`,
  css: `.page-shop .head{width:960px}.page .pots{list-style:none;padding:0;margin:0;display:grid;grid-template-columns:repeat(4,1fr);gap:20px}
.page .pots li{display:flex;flex-direction:column}.page .pots .drawn{aspect-ratio:4/5;height:auto;border-radius:6px;margin-bottom:8px}
@container (max-width:559px){.page .pots{grid-template-columns:repeat(2,1fr)}}`,
};

/** A payment page: one narrow column, its header asked for by address. */
export const checkout: Kind = {
  title: 'Pay: Ottermill Pottery',
  ground: '#f4f1ea',
  html: ({
    all,
  }) => `<main class="pay">${all}<div class="steps"><span class="done">Basket</span><span class="now">Pay</span><span>Done</span></div>
<div class="two"><div class="sheet"><p class="label">Name on the card</p><span class="line"></span><p class="label">Card number</p><span class="line"></span><div class="pair"><div><p class="label">Until</p><span class="line"></span></div><div><p class="label">Check digits</p><span class="line"></span></div></div><span class="paying">Pay 92.00</span></div>
<div class="basket"><h3>Your basket</h3><p>${picture('jug', 1)}<span>Stream jug<br>58.00</span></p><p>${picture('bowl', 0)}<span>Ash bowl<br>34.00</span></p><p class="sum"><strong>Together</strong><strong>92.00</strong></p></div></div></main>`,
  css: `.page-checkout .pay{width:752px;padding:28px 0 44px}.page-checkout .steps{display:flex;gap:10px;margin:18px 0;font-size:14px;color:#8a8271}.page-checkout .steps span{flex:1;border-top:3px solid #d8cfbd;padding-top:6px}.page-checkout .steps .done,.page-checkout .steps .now{border-color:#6b3a22;color:#33302a}.page-checkout .now{font-weight:600}
.page-checkout .two{display:grid;grid-template-columns:1fr 260px;gap:22px;align-items:start}.page-checkout .sheet,.page-checkout .basket{background:#fff;border:1px solid #e2d9c7;border-radius:8px;padding:18px 22px 22px}
.page-checkout .pair{display:grid;grid-template-columns:1fr 1fr;gap:16px}
.page-checkout .paying{display:block;margin-top:20px;background:#6b3a22;color:#fff;border-radius:6px;text-align:center;padding:10px;font-weight:600}
.page-checkout .basket p{display:flex;gap:14px;align-items:center;font-size:15px;margin:0 0 12px}.page-checkout .basket .drawn{width:64px;height:64px;border-radius:6px;flex:none}.page-checkout .sum{justify-content:space-between;border-top:1px solid #e2d9c7;padding-top:12px}
@container (max-width:559px){.page-checkout .two{grid-template-columns:1fr}}`,
};

/** A menu: a row of tiles, of which the page shows so many and no more. */
export const menuRow: Kind = {
  title: 'What we make: Ottermill Pottery',
  ground: '#fbf8f2',
  html: ({ all, row }) =>
    `${head('Shop')}<main class="wide"><h2>What we make</h2><div class="row">${all}${row}</div><p class="names"><span>Bowls</span><span>Jugs</span><span>Mugs</span><span>Bottles</span><span>Plates</span><span>Jars</span><span>Seconds</span></p><div class="columns"><article><h3>Made to be used</h3><p>All of it goes in the oven and the dishwasher, and some of it has gone down the stairs. What chips comes back, and we grind it smooth for nothing.</p></article><aside><h3>Seconds</h3><p>Every Friday, at the door</p></aside></div></main>${foot}`,
  css: `.page-menu .wide{width:1240px}.page-menu .head{width:1240px}.page-menu .row{display:flex;gap:20px;padding:6px 0 10px;overflow:hidden}
.page-menu .names{display:flex;gap:20px;font-size:15px;font-weight:600}.page-menu .names span{width:160px;flex:none;text-align:center;max-width:calc((100% - 120px)/7)}
@container (max-width:899px){.page-menu .row{flex-wrap:wrap}.page-menu .names{display:none}}`,
};

/** The window: a grid of pictures of several sizes with gaps of 15. */
export const mosaic: Kind = {
  title: 'In the window: Ottermill Pottery',
  ground: '#fbf8f2',
  html: ({ all, count }) =>
    `${head('Shop')}<main class="window"><h2>In the window this month</h2><div class="${count >= 4 ? 'cells' : 'alone'}">${all}</div><p class="under">Ash glazes from the third firing. The wide bowl is spoken for.</p></main>${foot}`,
  css: `.page-mosaic .window{width:1050px}.page-mosaic .head{width:1050px}.page-mosaic .under{margin-top:14px;color:#6e6454}
.page-mosaic .cells{display:grid;grid-template-columns:repeat(4,1fr);grid-template-rows:repeat(2,1fr);gap:15px;width:1050px;max-width:100%;aspect-ratio:1050/600}
.page.page-mosaic .cells .place{width:auto;aspect-ratio:auto;min-width:0;min-height:0}
.page.page-mosaic .cells .place:nth-child(1){grid-column:span 2;grid-row:span 2}.page.page-mosaic .cells .place:nth-child(2){grid-row:span 2}
@container (max-width:559px){.page-mosaic .cells{gap:8px}}`,
};

/** One picture cut in equal squares. */
export const strip: Kind = {
  title: 'From the kiln: Ottermill Pottery',
  ground: '#fbf8f2',
  html: ({ all, row }) =>
    `${head('Journal')}<main class="kiln"><h2>From the kiln, five at a time</h2><div class="squares">${all}${row}</div><p>The door opens on Thursdays at four. These five are still warm.</p><p>Pick one up by the foot, not by the rim: the glaze sings for an hour after it leaves the shelf.</p></main>${foot}`,
  css: `.page-strip .kiln{width:750px}.page-strip .head{width:750px}.page-strip .squares{display:flex;gap:20px;padding:4px 0 18px}
@container (max-width:899px){.page-strip .squares{flex-wrap:wrap}}`,
};

/** Drawings for the places of a row that are not ours to fill. */
export const fillerOf = (i: number): string => picture(drawnNames[(i + 1) % drawnNames.length]!, i + 1);
