import { foot, head, picture, type Kind } from './kind';

/** The journal: a header over an article. */
export const blog: Kind = {
  title: 'Notes from the Wheel',
  ground: '#fbf8f2',
  html: ({
    all,
  }) => `${head('Journal')}<main class="narrow">${all}<div class="columns"><article><p class="when">18 November</p>
<h2>The ash glaze, third firing</h2>
<p>The shelf nearest the burner came out a shade greener than the rest, which is what we hoped for and did not quite believe. The mill stream gave us the clay slip again: a bucket a week, strained through an old apron.</p>
<p>Six bowls and two jugs went straight to the shop window. The others stay with us until the handles have been looked at by someone with fresher eyes.</p></article>
<aside><h3>Lately</h3><p>What a cone tells you</p><p>A kiln diary in nine lines</p><p>Handles, and how they fail</p></aside></div></main>${foot}`,
  css: '.page-blog .narrow{width:940px}.page-blog .head{width:940px}',
};

/** About the workshop: a logo, and a header as wide as the window where there is one. */
export const about: Kind = {
  title: 'About Ottermill Pottery',
  ground: '#e9e2d3',
  html: ({ wide, narrow }) =>
    `${wide}<main class="about">${narrow}<h2>Two wheels by a mill stream</h2><p>We have thrown, glazed and fired in the old fulling mill since the roof was mended. Everything we sell was made within sight of the water.</p><div class="facts"><span><strong>2</strong>wheels</span><span><strong>41</strong>firings a year</span><span><strong>6</strong>at a class</span></div></main>${foot}`,
  css: `.page-about .about{width:720px;padding:40px 0;display:flex;flex-direction:column;align-items:center;text-align:center}
.page-about .facts{display:flex;gap:56px;margin-top:14px;font-size:15px;color:#5b5448}.page-about .facts strong{display:block;font:600 34px/1.1 'Lora Variable','Lora',serif;color:#6b3a22}`,
};

/** A page of one's own where nothing is known of the real one. */
export const plain: Kind = {
  title: 'A plain page',
  ground: '#ffffff',
  html: ({ all }) =>
    `<main class="plain">${all}<span class="bar w1"></span><span class="bar w2"></span><span class="bar w3"></span></main>`,
  css: `.page-plain .plain{padding:32px 0;display:flex;flex-direction:column;align-items:center;gap:14px;max-width:100%}
.page-plain .bar{display:block;height:14px;background:#e9e4da;border-radius:3px;width:60%;max-width:560px}.page-plain .bar.w2{width:52%}.page-plain .bar.w3{width:56%}`,
};

/** The front door: a picture as wide as the window, with the page's title printed on it. */
export const landing: Kind = {
  title: 'Ottermill Pottery: welcome',
  ground: '#2f2a26',
  printed: 'Stoneware from a mill stream',
  html: ({ all }) =>
    `${head()}${all}<main class="narrow"><div class="doors"><div>${picture('jug', 2)}<h3>The shop</h3><p>What came out of the kiln, as it came out.</p></div><div>${picture('bowl', 1)}<h3>Evening classes</h3><p>Eight Tuesdays at the wheel, six people at most.</p></div><div>${picture('lidded', 4)}<h3>The journal</h3><p>Glazes, handles, and how they fail.</p></div></div></main>${foot}`,
  css: `.page-landing{background:#fbf8f2}.page-landing .doors{display:grid;grid-template-columns:repeat(3,1fr);gap:28px;padding-top:30px}.page-landing .drawn{height:150px;border-radius:8px;margin-bottom:12px}
.page-landing .over-title{justify-content:center;text-align:center}.page-landing .over-title b{font-size:min(46cqh,7cqw)}
@container (max-width:559px){.page-landing .doors{grid-template-columns:1fr}.page-landing .over-title{left:6%!important;width:88%!important}.page-landing .over-title b{font-size:min(46cqh,9cqw)}}`,
};
