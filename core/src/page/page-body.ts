import type { PageKind } from '../slot/slot';

/** Text made safe for HTML content and quoted attributes. HTML Living Standard, 13.1.2.3 and 13.1.2.4. */
export function escapeHtml(text: string): string {
  return text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
}

interface Hole {
  readonly id: string;
  readonly html: string;
}

const menu = '<nav class="menu"><span>Shop</span><span>Classes</span><span>Journal</span><span>Find us</span></nav>';
const head = `<header class="head"><span class="wordmark">Ottermill Pottery</span>${menu}</header>`;
const foot =
  '<footer class="foot"><span>Ottermill Pottery, Mill Lane</span><span>Open Wednesday to Saturday, 10 to 5</span></footer>';
const pot = (kind: string, name: string, price: string) =>
  `<li class="pot"><span class="pot-picture ${kind}"></span><strong>${name}</strong><span>${price}</span></li>`;

/** The body of each kind of page of the invented pottery; `holes` stand where its slots are. */
export function pageBody(kind: PageKind, holes: readonly Hole[]): { title: string; html: string } {
  const all = holes.map((h) => h.html).join('');
  const hole = (id: string) => holes.find((h) => h.id === id)?.html ?? '';
  const rest = (...ids: string[]) =>
    holes
      .filter((h) => !ids.includes(h.id))
      .map((h) => h.html)
      .join('');
  switch (kind) {
    case 'blog':
      return {
        title: 'Notes from the Wheel',
        html: `${head}<main class="narrow">${all}<div class="columns"><article><p class="when">18 November</p>
<h2>The ash glaze, third firing</h2>
<p>The shelf nearest the burner came out a shade greener than the rest, which is what we hoped for and did not quite believe. The mill stream gave us the clay slip again: a bucket a week, strained through an old apron.</p>
<p>Six bowls and two jugs went straight to the shop window. The others stay with us until the handles have been looked at by someone with fresher eyes.</p></article>
<aside><h3>Lately</h3><p>What a cone tells you</p><p>A kiln diary in nine lines</p><p>Handles, and how they fail</p></aside></div></main>${foot}`,
      };
    case 'shop':
      return {
        title: 'Shop: Ottermill Pottery',
        html: `${head}<main class="narrow">${all}<h2>On the shelf this week</h2><ul class="pots">${pot('a', 'Ash bowl', '34')}${pot(
          'b',
          'Stream jug',
          '58',
        )}${pot('c', 'Morning mug', '22')}${pot('d', 'Tall bottle', '64')}</ul></main>${foot}`,
      };
    case 'form':
      return {
        title: 'Evening classes: book a place',
        html: `<main class="form">${all}<div class="sheet"><h2>Evening classes: book a place</h2>
<p>Eight Tuesdays at the wheel, six people at most. Clay, tools and two firings are included.</p>
<p class="label">Your name</p><span class="line"></span><p class="label">Have you thrown before?</p><p class="choice">Never</p><p class="choice">A few times</p><p class="choice">Often</p></div></main>`,
      };
    case 'community':
      return {
        title: 'Ottermill Pottery: neighbours',
        html: `<main class="narrow social">${all}<div class="who"><span class="portrait"></span><div><h2>Ottermill Pottery</h2><p>Stoneware from a mill stream. 1,204 neighbours follow along.</p></div></div>
<div class="columns"><article><p class="when">Yesterday</p><p>The kiln is cooling. We open the door on Thursday at four; come and see what the ash did.</p></article><aside><h3>Visit</h3><p>Mill Lane, by the ford</p></aside></div></main>`,
      };
    case 'profile':
      return {
        title: 'Wren Halloway, potter',
        html: `<main class="card-page">${hole('profile-banner')}${rest('profile-banner')}<div class="who"><span class="portrait"></span><div><h2>Wren Halloway</h2><p>Potter and teacher at Ottermill Pottery</p></div></div><p>Two wheels, one kiln, a mill stream. Stoneware for kitchens that are used.</p></main>`,
      };
    case 'chat':
      return {
        title: 'Class chat: Tuesday wheel',
        html: `<main class="chat"><h2>Tuesday wheel</h2><div class="said">${all}<div class="bubble"><strong>Ottermill Pottery</strong><p>The bisque firing is out. Your bowls are on the second shelf, with your initials under the foot.</p></div></div><div class="said other"><span class="portrait small"></span><div class="bubble"><strong>Imke</strong><p>Mine kept its rim. I may frame it.</p></div></div></main>`,
      };
    case 'about':
      return {
        title: 'About Ottermill Pottery',
        html: `<main class="about">${all}<h2>Two wheels by a mill stream</h2><p>We have thrown, glazed and fired in the old fulling mill since the roof was mended. Everything we sell was made within sight of the water.</p></main>${foot}`,
      };
    case 'feed':
      return {
        title: 'What people share',
        html: `<main class="feed"><div class="post"><p><strong>Imke</strong> shared a link</p>${all}<div class="caption"><span>ottermill.example</span><strong>Evening classes at the mill</strong><span>Eight Tuesdays at the wheel, six people at most.</span></div></div></main>`,
      };
    case 'plain':
      return {
        title: 'A plain page',
        html: `<main class="plain">${all}<span class="bar w1"></span><span class="bar w2"></span><span class="bar w3"></span></main>`,
      };
  }
}
