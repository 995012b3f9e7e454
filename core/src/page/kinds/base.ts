/** Style that all pages share, by our own design; its colours and type come from the site's look (see `lookCss`). Widths are asked of `.page-frame`, not of the window. */
export const baseCss = `
.page-frame{container-type:inline-size;min-height:100%;display:flex;flex-direction:column}
.page{background:var(--ground);color:var(--ink);font:400 16px/1.6 var(--body);flex:1;box-sizing:border-box;display:flex;flex-direction:column}
.page *{box-sizing:border-box}
.page h2{font:600 30px/1.2 var(--heading);margin:26px 0 10px;color:var(--title);letter-spacing:-.01em}
.page h3{font:600 18px/1.3 var(--heading);margin:0 0 8px}
.page p{margin:0 0 14px}
.page .place{position:relative;flex:none;max-width:100%;min-height:0}
.page .slot{display:block;position:relative;margin:0;width:100%;height:100%;overflow:hidden;background:var(--ground)}
.page .slot img{display:block;width:100%;height:100%;object-fit:cover}
.page .over{position:absolute;container-type:size;display:flex;align-items:center;justify-content:center;overflow:hidden}
.page .over-portrait{border-radius:50%;background:#c9b797;border:4px solid #fff}
.page .over-portrait::after{content:'';width:46%;height:46%;border-radius:50%;background:#8c6f52;box-shadow:0 56cqh 0 26cqh #8c6f52;margin-bottom:18%}
.page .over-title{color:#fff;justify-content:flex-start;font:600 10px/1.1 var(--heading)}
.page .over-title b{font-weight:600;font-size:min(56cqh,9cqw)}
.page .over-button{background:var(--accent);border-radius:6px}
.page .over-block{background:rgb(255 255 255/88%)}
.page .head{display:flex;justify-content:space-between;align-items:baseline;gap:24px;width:1120px;max-width:calc(100% - 40px);margin:0 auto;padding:22px 0 16px}
.page .wordmark{font:600 24px/1 var(--heading);color:var(--accent);white-space:nowrap}
.page .menu{display:flex;gap:26px;font-size:15px;color:var(--quiet)}
.page .menu .here{color:var(--accent);box-shadow:0 2px 0 var(--soft)}
.page main{flex:1;width:100%;max-width:calc(100% - 40px);margin:0 auto}
.page .narrow{width:960px}
.page .columns{display:grid;grid-template-columns:1fr 220px;gap:48px;padding-top:8px}
.page .columns aside{border-left:1px solid var(--line);padding:26px 0 0 22px;font-size:15px;color:var(--quiet)}
.page .when{font-size:14px;color:var(--quiet);margin:26px 0 6px}.page .when+h2{margin-top:0}
.page .who{display:flex;gap:20px;align-items:center;padding:18px 8px 4px}.page .who h2{margin:0}.page .who p{margin:4px 0 0;color:var(--quiet)}
.page .portrait{width:56px;height:56px;border-radius:50%;background:#c9b797;flex:none}
.page .foot{margin-top:44px;background:var(--foot);padding:22px 24px 28px;display:flex;justify-content:center;gap:72px;font-size:14px;color:var(--quiet)}
.page .foot strong{display:block;color:var(--ink)}
.page .label{font-weight:600;margin:14px 0 6px;font-size:15px}.page .line{display:block;height:38px;border:1px solid #b8b0a0;border-radius:5px;background:#fff}
.page .drawn{display:flex;align-items:center;justify-content:center;width:100%;height:100%;overflow:hidden}
.page .drawn svg{width:min(58%,150px);max-height:78%;stroke-width:2.5;stroke-linejoin:round}
@container (max-width:899px){.page .columns{grid-template-columns:1fr 180px;gap:28px}.page .foot{gap:32px}}
@container (max-width:559px){.page{font-size:15px}.page h2{font-size:25px}.page .columns{grid-template-columns:1fr}.page .columns aside{border:0;padding:8px 0 0}.page .menu{display:none}.page .head{justify-content:center}.page main,.page .head{max-width:calc(100% - 24px)}.page .foot{flex-direction:column;gap:12px;text-align:center}}
`.trim();
