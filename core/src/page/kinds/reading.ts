import type { Kind } from './kind';

/** The journal: a header over an article. */
export const blog: Kind = {
  ground: '#fafbfb',
  words: {
    title: 'Journal: {business}',
    when: '18 November',
    heading: 'The newest post',
    first: 'The first lines of what you wrote last: what happened, what came of it, and what you would do otherwise.',
    second: 'A second paragraph, a little longer than the first, so that the page has the length that pages have.',
    lately: 'Lately',
    one: 'The post before',
    two: 'One from last month',
    three: 'The one that people still read',
  },
  html: (
    { all },
    t,
  ) => `${t.head(2)}<main class="narrow">${all}<div class="columns"><article><p class="when">${t('when')}</p>
<h2>${t('heading')}</h2>
<p>${t('first')}</p>
<p>${t('second')}</p></article>
<aside><h3>${t('lately')}</h3><p>${t('one')}</p><p>${t('two')}</p><p>${t('three')}</p></aside></div></main>${t.foot}`,
  css: '.page-blog .narrow{width:940px}.page-blog .head{width:940px}',
};

/** About the business: a logo, and a header as wide as the window where there is one. */
export const about: Kind = {
  ground: '#e6eaeb',
  words: {
    title: 'About {business}',
    heading: 'Who we are',
    text: 'Where you work, since when, and what is made there.',
    count1: '2',
    what1: 'people',
    count2: '12',
    what2: 'years',
    count3: '1',
    what3: 'door',
  },
  html: ({ wide, narrow }, t) =>
    `${wide}<main class="about">${narrow}<h2>${t('heading')}</h2><p>${t('text')}</p><div class="facts">${[1, 2, 3].map((n) => `<span><strong>${t(`count${n}`)}</strong>${t(`what${n}`)}</span>`).join('')}</div></main>${t.foot}`,
  css: `.page-about .about{width:720px;padding:40px 0;display:flex;flex-direction:column;align-items:center;text-align:center}
.page-about .facts{display:flex;gap:56px;margin-top:14px;font-size:15px;color:var(--quiet)}.page-about .facts strong{display:block;font:600 34px/1.1 var(--heading);color:var(--accent)}`,
};

/** A page of one's own where nothing is known of the real one. */
export const plain: Kind = {
  ground: '#ffffff',
  words: { title: 'A plain page' },
  html: ({ all }) =>
    `<main class="plain">${all}<span class="bar w1"></span><span class="bar w2"></span><span class="bar w3"></span></main>`,
  css: `.page-plain .plain{padding:32px 0;display:flex;flex-direction:column;align-items:center;gap:14px;max-width:100%}
.page-plain .bar{display:block;height:14px;background:#e9e4da;border-radius:3px;width:60%;max-width:560px}.page-plain .bar.w2{width:52%}.page-plain .bar.w3{width:56%}`,
};

/** The front door: a picture as wide as the window, with the page's title printed on it. */
export const landing: Kind = {
  ground: '#2b3237',
  words: {
    title: '{business}: welcome',
    printed: 'The page’s title',
    door1: 'The shop',
    text1: 'What there is, as it came in.',
    door2: 'Services',
    text2: 'What we do for others, and when.',
    door3: 'The journal',
    text3: 'What we learned while doing it.',
  },
  html: ({ all }, t) =>
    `${t.head()}${all}<main class="narrow"><div class="doors">${[1, 2, 3].map((n) => `<div>${t.picture([1, 0, 5][n - 1]!, [2, 1, 4][n - 1]!)}<h3>${t(`door${n}`)}</h3><p>${t(`text${n}`)}</p></div>`).join('')}</div></main>${t.foot}`,
  css: `.page-landing{background:var(--paper)}.page-landing .doors{display:grid;grid-template-columns:repeat(3,1fr);gap:28px;padding-top:30px}.page-landing .drawn{height:150px;border-radius:8px;margin-bottom:12px}
.page-landing .over-title{justify-content:center;text-align:center}.page-landing .over-title b{font-size:min(46cqh,7cqw)}
@container (max-width:559px){.page-landing .doors{grid-template-columns:1fr}.page-landing .over-title{left:6%!important;width:88%!important}.page-landing .over-title b{font-size:min(46cqh,9cqw)}}`,
};
