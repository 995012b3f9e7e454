import { foot, head, type Kind } from './kind';

/** A form, its header not darkened. */
export const form: Kind = {
  title: 'Evening classes: book a place',
  ground: '#eef1ee',
  html: ({ all }) => `<main class="form">${all}<div class="sheet"><h2>Evening classes: book a place</h2>
<p>Eight Tuesdays at the wheel, six people at most. Clay, tools and two firings are included.</p>
<p class="label">Your name</p><span class="line"></span><p class="label">Have you thrown before?</p><p class="choice">Never</p><p class="choice">A few times</p><p class="choice">Often</p></div></main>`,
  css: `.page-form .form{width:1600px;display:flex;flex-direction:column;align-items:center;max-width:100%}
.page-form .sheet{background:#fff;width:720px;max-width:calc(100% - 32px);padding:8px 40px 40px;margin-top:-1px;border-radius:0 0 8px 8px}
.page-form .choice{margin:0 0 4px;padding-left:26px;position:relative}.page-form .choice::before{content:'';position:absolute;left:0;top:5px;width:14px;height:14px;border:1px solid #7d8a80;border-radius:50%}`,
};

/** A class with its stream of notices; the page darkens the header's foot and prints the class's name there. */
export const classPage: Kind = {
  title: 'Tuesday wheel: the class',
  ground: '#ffffff',
  printed: 'Tuesday wheel',
  html: ({ all }) =>
    `${head('Classes')}<main class="class">${all}<div class="columns"><article><div class="note"><strong>Wren</strong> · today<p>Bring an apron and short nails. We begin with cylinders, and go on until they stand.</p></div><div class="note"><strong>Wren</strong> · last week<p>The bisque firing is out. Your bowls are on the second shelf, with your initials under the foot.</p></div></article><aside><h3>Next</h3><p>Tuesday, 18:30</p><p>Wheel 2, by the window</p></aside></div></main>${foot}`,
  css: `.page-class .class{width:1200px}.page-class .head{width:1200px}.page-class .note{border:1px solid #e2ddd2;border-radius:10px;padding:14px 20px 4px;margin:18px 0 0;font-size:15px}`,
};

export const community: Kind = {
  title: 'Ottermill Pottery: neighbours',
  ground: '#ffffff',
  html: ({
    all,
  }) => `<main class="social">${all}<div class="who"><div><h2>Ottermill Pottery</h2><p>Stoneware from a mill stream. 1,204 neighbours follow along.</p></div></div>
<div class="columns"><article><p class="when">Yesterday</p><p>The kiln is cooling. We open the door on Thursday at four; come and see what the ash did.</p></article><aside><h3>Visit</h3><p>Mill Lane, by the ford</p></aside></div></main>`,
  css: `.page-community .social{width:851px}.page-community .who{padding-left:190px;min-height:70px}
@container (max-width:559px){.page-community .who{padding:52px 8px 0}}`,
};

export const profile: Kind = {
  title: 'Wren Halloway, potter',
  ground: '#ffffff',
  html: ({ all }) =>
    `<main class="card-page">${all}<div class="who"><div><h2>Wren Halloway</h2><p>Potter and teacher at Ottermill Pottery</p></div></div><p>Two wheels, one kiln, a mill stream. Stoneware for kitchens that are used.</p><p class="links"><span>Work</span><span>Classes</span><span>Write to Wren</span></p></main>`,
  css: `.page-profile{padding-top:24px}.page-profile .card-page{width:792px;padding-bottom:40px}.page-profile .who{padding:76px 8px 8px 24px}.page-profile .card-page>p{padding:0 24px}
.page-profile .links{display:flex;gap:12px}.page-profile .links span{border:1px solid #b9aa90;border-radius:16px;padding:3px 16px;font-size:15px}`,
};

export const chat: Kind = {
  title: 'Class chat: Tuesday wheel',
  ground: '#f3f1ec',
  html: ({ all }) =>
    `<main class="chat"><h2>Tuesday wheel</h2><div class="said">${all}<div class="bubble"><strong>Ottermill Pottery</strong><p>The bisque firing is out. Your bowls are on the second shelf, with your initials under the foot.</p></div></div><div class="said other"><span class="portrait"></span><div class="bubble"><strong>Imke</strong><p>Mine kept its rim. I may frame it.</p></div></div></main>`,
  css: `.page-chat .chat{width:720px;padding:16px 0 40px}.page-chat .said{display:flex;gap:20px;align-items:center;margin-bottom:22px}.page-chat .said.other{padding-left:36px}
.page-chat .bubble{background:#fff;border-radius:4px 16px 16px 16px;padding:12px 18px}.page-chat .bubble p{margin:2px 0 0}`,
};

export const feed: Kind = {
  title: 'What people share',
  ground: '#ffffff',
  html: ({ all }) =>
    `<main class="feed"><div class="post"><p><strong>Imke</strong> shared a link</p>${all}<div class="caption"><span>ottermill.example</span><strong>Evening classes at the mill</strong><span>Eight Tuesdays at the wheel, six people at most.</span></div></div></main>`,
  css: `.page-feed .feed{width:640px;padding:32px 0}.page-feed .post{border:1px solid #ddd;border-radius:6px;padding:18px 19px}.page-feed .caption{display:flex;flex-direction:column;background:#f4f2ee;padding:12px 16px;font-size:15px}`,
};
