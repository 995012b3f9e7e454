/** Style of the pottery's pages, by our own design; every rule is under `.page`. */
export const pageCss = `
.page{background:var(--ground);color:#33302a;font:400 16px/1.6 'Public Sans Variable','Public Sans',sans-serif;min-height:100%;box-sizing:border-box;display:flex;flex-direction:column}
.page *{box-sizing:border-box}
.page h2{font:600 30px/1.2 'Lora Variable','Lora',serif;margin:26px 0 10px;color:#2b2722}
.page h3{font:600 18px/1.3 'Lora Variable','Lora',serif;margin:0 0 8px}
.page p{margin:0 0 14px}
.page .slot{display:block;margin:0;max-width:100%;overflow:hidden;background:var(--ground);flex:none}
.page .slot img{display:block;width:100%;height:100%;object-fit:cover}
.page .head{display:flex;justify-content:space-between;align-items:baseline;width:940px;max-width:calc(100% - 32px);margin:0 auto;padding:22px 0 16px}
.page .wordmark{font:600 24px/1 'Lora Variable','Lora',serif;color:#6b3a22}
.page .menu{display:flex;gap:26px;font-size:15px;color:#5b5448}
.page main{flex:1;width:100%;max-width:calc(100% - 32px);margin:0 auto}
.page .narrow{width:960px}
.page-blog .narrow{width:940px}
.page .columns{display:grid;grid-template-columns:1fr 220px;gap:48px;padding-top:8px}
.page .columns aside{border-left:1px solid #ddd3c0;padding:26px 0 0 22px;font-size:15px;color:#5b5448}
.page .when{font-size:14px;color:#6e6454;margin:26px 0 6px}.page .when+h2{margin-top:0}
.page .pots{list-style:none;padding:0;display:grid;grid-template-columns:repeat(4,1fr);gap:20px}
.page .pot{display:flex;flex-direction:column}
.page .pot-picture{aspect-ratio:4/5;border-radius:3px;margin-bottom:8px;background:#d9cdb8}
.page .pot-picture.b{background:#b9c4b5}.page .pot-picture.c{background:#d7b98f}.page .pot-picture.d{background:#9c7f6a}
.page .foot{margin-top:40px;border-top:1px solid #ddd3c0;padding:18px 24px 26px;display:flex;justify-content:center;gap:36px;font-size:14px;color:#6e6454}
.page .form{width:1600px;display:flex;flex-direction:column;align-items:center;max-width:100%}
.page .sheet{background:#fff;width:720px;max-width:calc(100% - 32px);padding:8px 40px 40px;margin-top:-1px;border-radius:0 0 6px 6px}
.page .label{font-weight:600;margin:18px 0 6px}.page .line{display:block;height:38px;border:1px solid #b8c2ba;border-radius:4px}
.page .choice{margin:0 0 4px;padding-left:26px;position:relative}.page .choice::before{content:'';position:absolute;left:0;top:5px;width:14px;height:14px;border:1px solid #7d8a80;border-radius:50%}
.page-community .social{width:851px}
.page .who{display:flex;gap:20px;align-items:center;padding:18px 8px 4px}.page .who h2{margin:0}.page .who p{margin:4px 0 0;color:#6e6454}
.page .portrait{width:84px;height:84px;border-radius:50%;background:#c9b797;flex:none}.page .portrait.small{width:56px;height:56px}
.page .card-page{width:792px;padding-bottom:40px}
.page-profile{padding-top:24px}
.page .chat{width:720px;padding:16px 0 40px}.page .said{display:flex;gap:20px;align-items:center;margin-bottom:22px}.page .said.other{padding-left:36px}
.page .bubble{background:#fff;border-radius:4px 16px 16px 16px;padding:12px 18px}.page .bubble p{margin:2px 0 0}
.page .about{width:720px;padding:44px 0;display:flex;flex-direction:column;align-items:center;text-align:center}
.page .feed{width:640px;padding:32px 0}.page .post{border:1px solid #ddd;border-radius:6px;padding:18px 19px}.page .caption{display:flex;flex-direction:column;background:#f4f2ee;padding:12px 16px;font-size:15px}
.page .plain{padding:32px 24px;display:flex;flex-direction:column;align-items:center;gap:14px;width:100%;max-width:100%}
.page .bar{display:block;height:14px;background:#e9e4da;border-radius:3px;width:60%}.page .bar.w2{width:52%}.page .bar.w3{width:56%}
@media (max-width:700px){.page .columns{grid-template-columns:1fr}.page .pots{grid-template-columns:repeat(2,1fr)}.page .menu{display:none}.page .foot{flex-direction:column;gap:4px;text-align:center}}
`.trim();
