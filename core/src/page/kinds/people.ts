import type { Kind } from './kind';

/** A form, its header not darkened. */
export const form: Kind = {
  ground: '#eef0f1',
  words: {
    title: 'A form: {business}',
    heading: 'Book a place',
    text: 'Say who you are and what you would like; we answer within a day or two.',
    name: 'Your name',
    question: 'How did you hear of us?',
    first: 'From a friend',
    second: 'Walking by',
    third: 'Somewhere else',
  },
  html: ({ all }, t) => `<main class="form">${all}<div class="sheet"><h2>${t('heading')}</h2>
<p>${t('text')}</p>
<p class="label">${t('name')}</p><span class="line"></span><p class="label">${t('question')}</p><p class="choice">${t('first')}</p><p class="choice">${t('second')}</p><p class="choice">${t('third')}</p></div></main>`,
  css: `.page-form .form{width:1600px;display:flex;flex-direction:column;align-items:center;max-width:100%}
.page-form .sheet{background:#fff;width:720px;max-width:calc(100% - 32px);padding:8px 40px 40px;margin-top:-1px;border-radius:0 0 8px 8px}
.page-form .choice{margin:0 0 4px;padding-left:26px;position:relative}.page-form .choice::before{content:'';position:absolute;left:0;top:5px;width:14px;height:14px;border:1px solid #7d8a80;border-radius:50%}`,
};

/** A class with its stream of notices; the page darkens the header's foot and prints the class's name there. */
export const classPage: Kind = {
  ground: '#ffffff',
  words: {
    title: 'A class: {business}',
    printed: 'The class’s name',
    who: 'Your teacher',
    today: 'today',
    first: 'What to bring, and what we begin with next time.',
    before: 'last week',
    second: 'What was made last time is ready to be taken home.',
    next: 'Next',
    when: 'Tuesday, 18:30',
    where: 'The room by the window',
  },
  html: ({ all }, t) =>
    `${t.head(1)}<main class="class">${all}<div class="columns"><article><div class="note"><strong>${t('who')}</strong> · ${t('today')}<p>${t('first')}</p></div><div class="note"><strong>${t('who')}</strong> · ${t('before')}<p>${t('second')}</p></div></article><aside><h3>${t('next')}</h3><p>${t('when')}</p><p>${t('where')}</p></aside></div></main>${t.foot}`,
  css: `.page-class .class{width:1200px}.page-class .head{width:1200px}.page-class .note{border:1px solid var(--line);border-radius:10px;padding:14px 20px 4px;margin:18px 0 0;font-size:15px}`,
};

export const community: Kind = {
  ground: '#ffffff',
  words: {
    title: '{business}: neighbours',
    name: '{business}',
    about: 'What we do, and how many follow along.',
    when: 'Yesterday',
    said: 'What is new this week, said in two lines by whoever opened the door this morning.',
    visit: 'Visit',
    where: 'Where we are',
  },
  html: (
    { all },
    t,
  ) => `<main class="social">${all}<div class="who"><div><h2>${t('name')}</h2><p>${t('about')}</p></div></div>
<div class="columns"><article><p class="when">${t('when')}</p><p>${t('said')}</p></article><aside><h3>${t('visit')}</h3><p>${t('where')}</p></aside></div></main>`,
  css: `.page-community .social{width:851px}.page-community .who{padding-left:190px;min-height:70px}
@container (max-width:559px){.page-community .who{padding:52px 8px 0}}`,
};

export const profile: Kind = {
  ground: '#ffffff',
  words: {
    title: 'Someone of {business}',
    name: 'Your name',
    about: 'What you do at {business}',
    text: 'Two lines about your work: what you make, for whom, and why.',
    first: 'Work',
    second: 'Services',
    third: 'Write to me',
  },
  html: ({ all }, t) =>
    `<main class="card-page">${all}<div class="who"><div><h2>${t('name')}</h2><p>${t('about')}</p></div></div><p>${t('text')}</p><p class="links"><span>${t('first')}</span><span>${t('second')}</span><span>${t('third')}</span></p></main>`,
  css: `.page-profile{padding-top:24px}.page-profile .card-page{width:792px;padding-bottom:40px}.page-profile .who{padding:76px 8px 8px 24px}.page-profile .card-page>p{padding:0 24px}
.page-profile .links{display:flex;gap:12px}.page-profile .links span{border:1px solid var(--soft);border-radius:16px;padding:3px 16px;font-size:15px}`,
};

export const chat: Kind = {
  ground: '#f1f2f2',
  words: {
    title: 'A chat with {business}',
    heading: 'A chat',
    who: '{business}',
    said: 'It is ready to be fetched whenever it suits you.',
    other: 'A customer',
    answer: 'Thank you, I will come by tomorrow.',
  },
  html: ({ all }, t) =>
    `<main class="chat"><h2>${t('heading')}</h2><div class="said">${all}<div class="bubble"><strong>${t('who')}</strong><p>${t('said')}</p></div></div><div class="said other"><span class="portrait"></span><div class="bubble"><strong>${t('other')}</strong><p>${t('answer')}</p></div></div></main>`,
  css: `.page-chat .chat{width:720px;padding:16px 0 40px}.page-chat .said{display:flex;gap:20px;align-items:center;margin-bottom:22px}.page-chat .said.other{padding-left:36px}
.page-chat .bubble{background:#fff;border-radius:4px 16px 16px 16px;padding:12px 18px}.page-chat .bubble p{margin:2px 0 0}`,
};

export const feed: Kind = {
  ground: '#ffffff',
  words: {
    title: 'What people share',
    who: 'Someone',
    shared: 'shared a link',
    address: '{address}',
    heading: 'A page of {business}',
    text: 'The first line of what stands there.',
  },
  html: ({ all }, t) =>
    `<main class="feed"><div class="post"><p><strong>${t('who')}</strong> ${t('shared')}</p>${all}<div class="caption"><span>${t('address')}</span><strong>${t('heading')}</strong><span>${t('text')}</span></div></div></main>`,
  css: `.page-feed .feed{width:640px;padding:32px 0}.page-feed .post{border:1px solid #ddd;border-radius:6px;padding:18px 19px}.page-feed .caption{display:flex;flex-direction:column;background:#f4f2ee;padding:12px 16px;font-size:15px}`,
};
