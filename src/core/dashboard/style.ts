import { figureSizes } from "../chart/figure-html";
import { GRID_GAP, isOpenEnded, type PagePlan, shareOf } from "../page/page";
import type { StylePlan } from "../plan/plan";
import { TOKENS } from "../scene/theme";
import { PACKED_FONTS } from "./packed-fonts";

function tokens(ground: "light" | "dark"): string {
  return Object.entries(TOKENS[ground])
    .map(([name, color]) => `--${name}:${color}`)
    .join(";");
}

function grounds({ ground, accent }: StylePlan): string {
  const own = accent === undefined ? "" : `:root{--brass:${accent}}`;
  // Readers can turn the ground; paper stays light.
  const turned = `@media screen{html.on-light{color-scheme:light;${tokens("light")}}html.on-dark{color-scheme:dark;${tokens("dark")}}}${own}`;
  if (ground !== "auto") return `:root{color-scheme:${ground};${tokens(ground)}}${turned}`;
  return `:root{color-scheme:light dark;${tokens("light")}}@media (prefers-color-scheme:dark){:root{${tokens("dark")}}}${turned}`;
}

function faces(type: "packed" | "system"): string {
  if (type === "system") return ":root{--sans:system-ui,sans-serif;--serif:Georgia,serif}";
  const face = (family: string, weight: number, data: string) =>
    `@font-face{font-family:"${family}";font-weight:${weight};src:url(data:font/woff2;base64,${data}) format("woff2")}`;
  return `${face("Harbor Sans", 400, PACKED_FONTS.sans)}${face("Harbor Sans", 600, PACKED_FONTS.sansBold)}${face("Harbor Serif", 400, PACKED_FONTS.serif)}:root{--sans:"Harbor Sans",system-ui,sans-serif;--serif:"Harbor Serif",Georgia,serif}`;
}

/** A track in percent is a part of what the gaps leave, so that a hundred of them fill the page and no more. */
function sharedOut(track: string, tracks: readonly string[], gap: number): string {
  if (!track.endsWith("%") || tracks.length < 2) return track;
  return `calc((100% - ${gap * (tracks.length - 1)}px)*${Number.parseFloat(track) / 100})`;
}

/** A row that takes the room there is takes no less, in pixels. */
const LEAST_ROW = 180;

/** How high rows are at the least, so that a page that is higher than the screen pushes what is under it down. */
function leastHeight(rows: readonly string[]): number {
  const heights = rows.map((row) =>
    shareOf(row) !== undefined ? LEAST_ROW : row.endsWith("px") ? Number.parseFloat(row) : 0,
  );
  return heights.reduce((sum, height) => sum + height, GRID_GAP.y * Math.max(0, rows.length - 1));
}

/** How wide an area is on paper where it is not laid out by a grid: the whole sheet, or half of it. */
const paperWidth = ({ columns }: PagePlan, { column, columnEnd }: PagePlan["areas"][number]): string =>
  columnEnd - column > columns.length / 2 ? "100%" : "50%";

/** Grid tracks and areas of every page as rules: no element carries a style of its own. */
function pageRules(pages: readonly PagePlan[]): string {
  return pages
    .map((page, at) => {
      const laid = (tracks: readonly string[], least: string, gap: number) =>
        tracks.map((track) => (track.endsWith("fr") ? `minmax(${least},${track})` : sharedOut(track, tracks, gap)));
      const isScreen = page.height === "screen";
      const rows = laid(page.rows, isScreen ? `${LEAST_ROW}px` : "320px", GRID_GAP.y);
      const least = isScreen
        ? `@media screen and (min-width:721px){#page-${at}{min-height:${leastHeight(page.rows)}px}}`
        : "";
      const columns = laid(page.columns, "0", GRID_GAP.x);
      const grid = `#page-${at} .grid{grid-template-columns:${columns.join(" ")};grid-template-rows:${rows.join(" ")}}`;
      const areas = page.areas
        .map(
          (area, place) =>
            `#page-${at} .area-${place}{grid-area:${area.row}/${area.column}/${area.rowEnd}/${area.columnEnd};--on-paper:${paperWidth(page, area)}}`,
        )
        .join("");
      return grid + areas + scrollRules(page, at) + least;
    })
    .join("");
}

/**
 * A list of all its rows scrolls in its place. Where the place would be as high as the list, which may have a million
 * rows, the list is no higher than most of the screen.
 */
const scrollRules = ({ areas, rows }: PagePlan, at: number): string =>
  areas
    .map(({ row, rowEnd }, place) =>
      rows.slice(row - 1, rowEnd - 1).some(isOpenEnded) ? `#page-${at} .area-${place} .rows.whole{${SCROLLS}}` : "",
    )
    .join("");

const SCROLLS = "max-height:70vh";

const RULES = `
*{box-sizing:border-box}
html{font:13px/1.4 var(--sans);font-variant-numeric:tabular-nums;background:var(--ground);color:var(--ink);-webkit-text-size-adjust:100%}
body{margin:0;min-height:100vh;display:flex;flex-direction:column;padding:16px 22px 14px}
h1,h2,p,ul,fieldset,legend,figure,dl,dd{margin:0;padding:0;border:0}
h1{font:400 27px/1.2 var(--serif)}
button,input,select{font:inherit;color:inherit}
button{background:none;border:0;padding:0;cursor:pointer;text-align:inherit}
a{color:var(--sea)}
:focus-visible{outline:2px solid var(--sea);outline-offset:2px}
.head{display:flex;flex-wrap:wrap;align-items:baseline;gap:4px 24px}
.logo{height:30px;max-width:180px;object-fit:contain;align-self:center}
.page-menu{margin-left:auto;display:flex;gap:16px;color:var(--quiet)}
.page-menu button:hover{color:var(--sea)}
.rows tbody th{text-align:left;font-weight:600;padding:4px 24px 4px 0;border-bottom:1px solid var(--rule)}
.rows.editions table{width:auto}
.editions tbody th{font-size:15px;padding-right:40px}
.made{margin-top:10px;color:var(--quiet);font-size:12px}
.made summary{cursor:pointer;width:max-content}
.made div{max-width:80ch;color:var(--ink);padding:6px 0 20px;font-size:13px}
.made h3{font-size:14px;margin:12px 0 2px}
.made ol{margin:4px 0;padding-left:22px}
.quiet{color:var(--quiet)}
.keys th{text-align:left;padding-right:22px;font-weight:600}
.pages{display:flex;flex-wrap:wrap;gap:2px 20px;list-style:none}
.pages button{padding:2px 0;border-bottom:2px solid transparent}
.pages button[aria-current=page]{border-bottom-color:var(--brass)}
.pages button:hover{color:var(--sea)}
.about{color:var(--quiet);max-width:90ch}
.note .about{color:var(--ink);line-height:1.5;max-width:75ch;min-height:0;overflow:auto}
.about :is(h2,h3,h4,h5,h6){margin:0;font-size:15px}
.about :is(h4,h5,h6){font-size:13px}
.about>*+*{margin-top:6px}
.about>*+:is(h2,h3,h4,h5,h6){margin-top:14px}
.about :is(ul,ol){padding-left:20px}
.about blockquote{margin-left:0;padding-left:12px;border-left:2px solid var(--rule)}
.about pre{overflow:auto;margin-bottom:0}
.about hr{border:0;border-top:1px solid var(--rule)}
.about table{border-collapse:collapse}
.about :is(th,td){text-align:left;padding:3px 24px 3px 0;border-bottom:1px solid var(--rule)}
.about th{font-weight:400;color:var(--quiet)}
.about .number{text-align:right}
.about .middle{text-align:center}
.sentence{min-height:24px;line-height:22px}
.sentence b{font-weight:600}
.chip{border-bottom:2px solid var(--brass)}
.chip+button{color:var(--quiet);padding:0 5px}
.chip+button:hover{color:var(--coral)}
.notice{color:var(--coral)}
.plain{color:var(--quiet);text-decoration:underline;text-underline-offset:2px}
.plain:hover{color:var(--sea)}
.page{flex:1;display:grid;grid-template-columns:minmax(0,1fr);gap:0 26px;margin-top:8px;min-height:0}
.page.sided{grid-template-columns:var(--side,176px) minmax(0,1fr)}
.page.sided.folded{grid-template-columns:24px minmax(0,1fr)}
.page[hidden]{display:none}
.side{display:flex;flex-direction:column;gap:16px;padding-top:6px;min-width:0;position:relative}
.side-edge{position:absolute;top:0;bottom:0;right:-16px;width:8px;cursor:col-resize}
.side-edge:hover,.side-edge:focus-visible{border-right:1px solid var(--rule)}
.side-edge[hidden]{display:none}
.folded .side>:not(.fold){display:none}
.side .fold{order:1}
.folded .side .fold{order:0}
.folded .side .fold{writing-mode:vertical-rl;align-self:flex-start}
.fold{align-self:flex-start}
.grid{display:grid;gap:${GRID_GAP.y}px ${GRID_GAP.x}px;min-width:0;min-height:0}
.page:not(.screen){flex:1 0 auto}
.page:not(.screen) .grid{align-content:start}
.screen .grid{height:100%}
.shared{display:flex;flex-direction:column;min-width:0;min-height:0;gap:${GRID_GAP.y}px ${GRID_GAP.x}px}
.shared.beside{flex-direction:row}
.shared>.piece,.shared>.shared{flex:1}
.shared.tabs{gap:0}
[role=tablist]{display:flex;flex-wrap:wrap;gap:2px 18px;border-top:1px solid var(--rule);padding-top:4px}
[role=tab]{font-size:15px;line-height:1.3;color:var(--quiet);border-bottom:2px solid transparent}
[role=tab][aria-selected=true]{color:var(--ink);font-weight:600;border-bottom-color:var(--brass)}
[role=tab]:hover{color:var(--sea)}
[role=tabpanel]{flex:1;display:flex;flex-direction:column;min-height:0;min-width:0}
[role=tabpanel][hidden]{display:none}
[role=tabpanel]>.piece,[role=tabpanel]>.shared{flex:1;border-top:0}
[role=tabpanel]>.piece>header h2,header.bare h2{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%)}
[role=tabpanel]>.piece>header{min-height:0}
.piece{display:flex;flex-direction:column;min-width:0;min-height:0;border-top:1px solid var(--rule);padding-top:5px;position:relative;overflow:hidden}
.piece header{display:flex;align-items:baseline;gap:12px;min-height:21px}
.piece h2{font-size:15px;line-height:1.3;font-weight:600;flex:1;min-width:0}
.piece .sub{color:var(--quiet)}
.piece .menu-button{opacity:0;color:var(--quiet)}
.piece header.bare,[role=tabpanel]>.piece:has(.legend.top)>header{position:absolute;top:7px;right:0;z-index:2;min-height:0}
header.bare .menu-button,[role=tabpanel] header .menu-button{background:var(--ground);padding-left:6px}
.piece:hover .menu-button,.piece:focus-within .menu-button{opacity:1}
.legend{display:flex;flex-wrap:wrap;gap:2px 2px;min-height:22px;padding:2px 0}
.legend button,.legend span{display:inline-flex;align-items:center;gap:5px}
.with-legend{flex:1;display:flex;gap:10px;min-height:0;min-width:0;position:relative}
.legend.left,.legend.right{flex-direction:column;flex-wrap:nowrap;max-width:30%;overflow:auto;align-self:flex-start;max-height:100%}
.legend.left>span:not(.entry),.legend.right>span:not(.entry){flex-wrap:wrap;row-gap:0}
.legend.inside{position:absolute;flex-direction:column;gap:0;z-index:3;padding:4px 8px;background:var(--ground);opacity:.94}
.legend.in-top-left{top:24px;left:64px}
.legend.in-top-right{top:24px;right:18px}
.legend.in-bottom-left{bottom:42px;left:64px}
.legend.in-bottom-right{bottom:42px;right:18px}
.legend .entry{display:inline-flex;gap:0}
.legend .only{width:24px;padding:0 0 0 3px;opacity:0;color:var(--quiet);font-size:11px}
.legend .entry:not(:has(.only)){padding-right:24px}
.legend .entry:hover .only,.legend .entry:focus-within .only{opacity:1}
.legend button.quiet{color:var(--quiet)}
.legend svg{flex:none;overflow:visible}
.legend .run{flex-wrap:wrap;gap:2px 14px}
.legend>span:not(.entry){margin-right:12px}
.legend button[aria-pressed=false]{color:var(--quiet);text-decoration:line-through}
.legend.fades button[aria-pressed=false]{text-decoration:none}
.legend button[aria-pressed=false] svg{opacity:.3}
.plot{flex:1;position:relative;min-height:0;min-width:0}
.plot>svg,.plot>canvas{position:absolute;inset:0;width:100%;height:100%;display:block}
.plot .over{pointer-events:none}
.plot svg text{font-family:var(--sans)}
.plot .catch{position:absolute;inset:0;touch-action:pan-y;outline-offset:-2px}
.plot .catch.lassos,.plot .catch.closer{touch-action:none}
.plot .catch.closer{cursor:zoom-in}
.nothing ul{list-style:none}
.nothing button{color:var(--sea);text-decoration:underline;text-underline-offset:2px}
.plot .nothing{position:absolute;left:50%;top:50%;transform:translate(-50%,-50%);z-index:3;background:var(--ground);padding:6px 14px;text-align:center;max-width:90%}
.exact{width:auto}
.exact p{margin-bottom:8px}
.exact button[type=submit]{color:var(--sea)}
.switches{position:absolute;top:0;right:0;display:flex;gap:12px;background:var(--ground);padding:0 2px 0 8px;font-size:12px;color:var(--quiet)}
.switches[hidden]{display:none}
.switches button:hover{color:var(--sea)}
.switches button[aria-pressed=true]{color:var(--ink);box-shadow:inset 0 -2px var(--brass)}
.plot .catch.brushes:not(.closer){cursor:crosshair}
.plot .catch.clicks{cursor:pointer}
.credit,.hint{color:var(--quiet);font-size:12px}
.figure{border-top-color:var(--ink)}
.figure h2{font-weight:400;font-size:13px;color:var(--quiet)}
.figure .number{font:400 27px/1.15 var(--serif);white-space:nowrap;display:flex;flex-wrap:wrap;align-items:baseline;gap:0 12px}
.figure .number small{font:400 .56em var(--sans)}
.shown-figure{container-type:inline-size}
${figureSizes()}
.shown-figure:has(.figures){min-height:0;overflow:auto}
.figures{display:flex;flex-wrap:wrap;gap:4px clamp(8px,4cqi,26px)}
.figure .by{color:var(--quiet);font-size:12px}
.spark{width:96px;height:24px;align-self:center}
.spread{width:120px;height:22px;display:block}
.figure .compare{color:var(--quiet);font-size:12px;min-height:17px}
.broken{color:var(--coral)}
.rows{flex:1;overflow:auto;min-height:0}
.rows table{border-collapse:collapse;width:100%}
.rows thead th{position:sticky;top:0;background:var(--ground);text-align:left;font-weight:400;color:var(--quiet);padding:0;border-bottom:1px solid var(--ink);white-space:nowrap;z-index:1}
.rows thead th button,.rows thead th span{padding:3px 10px 4px 0;color:inherit;display:block;width:100%}
.rows td{padding:4px 10px 4px 0;border-bottom:1px solid var(--rule);max-width:26ch;overflow:hidden;text-overflow:ellipsis;white-space:nowrap}
.rows .number{text-align:right}
.rows td.number{padding-left:6px}
.rows td img{height:22px;max-width:72px;object-fit:contain;display:block}
.rows thead th .edge{position:absolute;top:0;right:0;bottom:0;width:9px;padding:0;cursor:col-resize}
.rows thead th:hover .edge{border-right:1px solid var(--rule)}
.rows thead th.moving{opacity:.5}
.rows thead th.number button{text-align:right}
.rows tr[aria-selected=true] td{box-shadow:inset 0 -2px var(--brass)}
.rows tbody tr:focus-visible{outline-offset:-2px}
.head-line{display:flex;flex-wrap:wrap;gap:4px 14px;align-items:baseline;color:var(--quiet);padding-bottom:3px}
.head-line .space{flex:1}
.head-line input{background:none;border:0;border-bottom:1px solid var(--rule);color:inherit;font:inherit;padding:1px 0;width:16ch}
.rows .number+td:not(.number),.rows .number+th:not(.number){padding-left:24px}
.rows td.barred{position:relative}
.rows td.barred .bar{position:absolute;top:5px;bottom:5px;background:var(--sea);opacity:.28}
.rows td.barred span:last-child{position:relative}
.rows tfoot td{position:sticky;bottom:0;background:var(--ground);border-top:1px solid var(--ink);border-bottom:0;font-weight:600}
.foot{display:flex;flex-wrap:wrap;gap:4px 14px;color:var(--quiet);padding-top:5px;align-items:baseline}
.foot .space{flex:1}
.tip{position:fixed;z-index:30;background:var(--sheet);border:1px solid var(--rule);border-top:2px solid var(--ink);padding:5px 9px;pointer-events:none;max-width:340px}
.tip[hidden]{display:none}
.tip table{border-collapse:collapse}
.tip tbody+tbody tr:first-child td{border-top:1px solid var(--rule)}
.tip.kept{pointer-events:auto;padding-right:26px;z-index:29}
.tip.kept button{position:absolute;top:2px;right:4px;width:20px;height:20px;color:var(--quiet)}
.tip caption{text-align:left;font-weight:600;padding-bottom:2px}
.tip td{padding:1px 0;vertical-align:top;overflow-wrap:anywhere}
.tip td:first-child{color:var(--quiet);padding-right:14px;overflow-wrap:normal}
.tip td.value{text-align:right}
.tip td.keyed{border-left:8px solid;padding-left:7px}
.menu{position:fixed;z-index:40;background:var(--sheet);border:1px solid var(--rule);border-top:2px solid var(--ink);padding:4px 0;min-width:170px}
.menu button{display:block;width:100%;padding:4px 12px}
.menu button[aria-checked=true]::before{content:"✓ "}
.menu button:hover,.menu button:focus-visible{background:var(--ground)}
.control{min-width:0}
.control>legend,.control>label{color:var(--quiet);display:block;padding-bottom:3px}
.choices{list-style:none;max-height:258px;overflow:auto;padding:4px;margin:-4px}
.choices label{display:flex;gap:8px;align-items:baseline;padding:2px 0}
.choices .name{flex:1;min-width:0;overflow:hidden;text-overflow:ellipsis;white-space:nowrap}
.choices .count{color:var(--quiet)}
.choices input{accent-color:var(--sea);margin:0;align-self:center}
.foot select{background:none;border:0;border-bottom:1px solid var(--rule);color:inherit;padding:0}
.control select,.control input[type=search],.control input[type=text]{width:100%;background:none;border:0;border-bottom:1px solid var(--ink);border-radius:0;padding:3px 0}
.track{position:relative;height:24px}
.track .rail{position:absolute;left:0;right:0;top:11px;height:2px;background:var(--rule)}
.track .held{position:absolute;top:10px;height:4px;background:var(--sea)}
.track input{position:absolute;inset:0;width:100%;height:24px;margin:0;background:none;appearance:none;-webkit-appearance:none;pointer-events:none}
.track input::-webkit-slider-runnable-track{height:24px;background:none}
.track input::-webkit-slider-thumb{-webkit-appearance:none;pointer-events:auto;width:9px;height:18px;margin-top:3px;background:var(--sheet);border:2px solid var(--sea);border-radius:0;cursor:ew-resize}
.track input::-moz-range-thumb{pointer-events:auto;width:5px;height:14px;background:var(--sheet);border:2px solid var(--sea);border-radius:0;cursor:ew-resize}
.track input:only-of-type{pointer-events:auto}
.track input:focus-visible{outline:none}
.track input:focus-visible::-webkit-slider-thumb{outline:2px solid var(--sea);outline-offset:2px}
.track input:focus-visible::-moz-range-thumb{outline:2px solid var(--sea);outline-offset:2px}
.control input.bound{width:7.5em;background:none;border:0;border-bottom:1px solid var(--rule);color:inherit;font:inherit;text-align:right;padding:0}
.days{display:flex;gap:8px;flex-wrap:wrap}
.control input[type=date],.control input[type=number]{background:none;border:0;border-bottom:1px solid var(--rule);color:inherit;font:inherit;padding:2px 0;min-width:0}
.control input[type=color]{width:44px;height:22px;padding:0;border:1px solid var(--rule);background:none}
.switched{display:flex;gap:10px;align-items:center}
.switched input{accent-color:var(--sea);margin:0}
.typed{position:relative}
.options{position:absolute;left:0;right:0;top:100%;z-index:6;list-style:none;max-height:240px;overflow:auto;background:var(--sheet);border:1px solid var(--ink)}
.options li{display:flex;gap:8px;padding:3px 8px;cursor:pointer}
.options li[aria-selected=true],.options li:hover{background:var(--rule)}
.options .name{flex:1;min-width:0;overflow:hidden;text-overflow:ellipsis;white-space:nowrap}
.options .count{color:var(--quiet)}
.chips,.conditions{list-style:none;display:flex;flex-wrap:wrap;gap:4px 8px}
.chips:empty,.conditions:empty{display:none}
.asked{display:grid;grid-template-columns:1fr 1fr;gap:4px 8px;align-items:baseline}
.act{border:1px solid var(--ink);background:none;color:inherit;font:inherit;padding:4px 12px;cursor:pointer}
.act:disabled{color:var(--quiet);border-color:var(--rule);cursor:default}
.ends{display:flex;justify-content:space-between;gap:8px;font-size:12px}
.sr{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap}
.alone .piece:not(.shown),.alone .page:not(.holds),.alone .side,.alone header.top,.alone .made{display:none}
.spare{display:none}
.marked::before{content:"";position:absolute;left:0;top:5px;width:3px;height:20px;background:var(--brass)}
.marked h2{padding-left:10px}
dialog{background:var(--ground);color:inherit;border:1px solid var(--rule);border-top:2px solid var(--ink);padding:14px 18px;width:min(900px,92vw);max-height:86vh;flex-direction:column;gap:8px}
dialog[open]{display:flex}
dialog::backdrop{background:rgb(16 32 31/.35)}
@media (min-width:721px){.screen-page body{height:100vh;min-height:0}}
@media (max-width:720px){
body{padding:12px}
.page.sided:not([hidden]){display:block}
.page .grid{display:flex;flex-direction:column;height:auto}
.page .grid .chart,.page .grid .table{min-height:300px}
.rows.whole{${SCROLLS}}
.page .grid .figure{min-height:86px}
.side{margin-bottom:14px}
.folded .side .fold{writing-mode:horizontal-tb;font-size:15px;padding:4px 0}
.side-edge{display:none}
.shared.beside{flex-direction:column}
}
html.alone body{height:100vh;min-height:0;padding:8px 14px}
html.alone .page.holds{display:flex;margin:0}
html.alone .page.holds .grid{display:flex;flex-direction:row;flex:1;height:auto}
html.alone .shown.piece{flex:1;border-top:0;min-height:0}
@media (hover:none){.piece .menu-button{opacity:1}}
.look-in{border:1px solid var(--rule);border-top:2px solid var(--ink);background:var(--sheet);color:var(--ink);padding:12px 16px;width:min(900px,92vw);max-height:86vh}
.look-in[open]{display:flex;flex-direction:column;gap:8px}
.look-in header{display:flex;gap:18px;align-items:baseline}
.look-in h2{font-size:15px;flex:1}
.look-in .rows thead th{padding:3px 10px 4px 0;background:var(--sheet)}
.look-in .rows thead th.number{text-align:right}
@media (prefers-reduced-motion:no-preference){.menu-button{transition:opacity .15s}}
`;

/**
 * How a page stands on paper: light, without anything to press. The script lays it out so before the printing
 * begins, at the width of a sheet, and draws for it. A page with lists is no grid there, and no list stands in a
 * flexible box: browsers neither repeat the heads of such tables nor make room for what their pages add.
 */
const PAPER: readonly (readonly [selector: string, rule: string])[] = [
  // White, as what browsers print of a canvas is: its ground is opaque on paper.
  ["", "TOKENS;background:#fff"],
  [
    ".side,[data-control],.head-line,.menu-button,.menu,.switches,.page-menu,.pages,.foot,.sentence button,.grip,.tip,.rows .edge",
    "display:none",
  ],
  ["body", "display:block;height:auto;min-height:0;padding:0"],
  [".page,.page.sided,.page.sided.folded:not([hidden])", "display:block;min-height:0!important"],
  [".page[hidden],.page.spare", "display:none"],
  [".page .grid", "display:grid;height:auto;grid-template-rows:none!important;grid-auto-rows:auto"],
  [".page .grid .piece", "overflow:visible;break-inside:avoid;min-height:0"],
  [".page .grid:has(.table)", "display:block"],
  [
    ".page .grid:has(.table)>*",
    "display:inline-flex;vertical-align:top;width:calc(var(--on-paper) - 12px);margin:0 12px 14px 0",
  ],
  [
    ".page .grid .piece.table,.page .grid .shared:has(.table)",
    "display:block;width:auto;height:auto;break-inside:auto",
  ],
  ["[role=tablist]", "display:none"],
  ["[role=tabpanel][hidden],[role=tabpanel]", "display:block;margin-bottom:14px"],
  ["[role=tabpanel]>.piece>header h2", "position:static;width:auto;height:auto;clip-path:none"],
  [".shared.beside", "flex-direction:column"],
  [".plot", "min-height:250px"],
  [".rows", "display:block;overflow:visible;max-height:none!important"],
  [".note .about", "overflow:visible"],
  [".rows th", "position:static"],
  [".rows thead", "display:table-header-group;break-inside:avoid"],
  // Heads are repeated on every page by browsers only where nothing in them can be pressed.
  [".rows thead button", "display:none"],
  [".rows thead th[aria-label]::before", "content:attr(aria-label);display:block;padding:3px 10px 4px 0"],
  [".rows tfoot", "display:table-row-group"],
  [".rows tfoot td", "position:static;background:none"],
  [".rows tr", "break-inside:avoid"],
  [".rows td", "max-width:none;white-space:normal;overflow-wrap:break-word"],
  [".rows td.number", "white-space:nowrap"],
  // What is shaded, or has a bar behind it, cannot be read on bare paper.
  [".rows td,.rows .bar", "-webkit-print-color-adjust:exact;print-color-adjust:exact"],
  [".summary table", "font-size:9px"],
  [".summary td,.summary th", "padding-right:5px"],
  [".spread", "width:64px;height:14px"],
];

/** Pixels of width on a sheet of A4 or letter paper between usual margins. */
const PAPER_WIDTH = 700;

function paperRules(): string {
  const light = tokens("light");
  const rules = (root: string) =>
    PAPER.map(
      ([selector, rule]) =>
        `${
          selector === ""
            ? root
            : selector
                .split(",")
                .map((one) => `${root} ${one}`)
                .join(",")
        }{${rule.replace("TOKENS", `color-scheme:light;${light}`)}}`,
    ).join("");
  return `@media print{${rules("html")}}${rules("html.printing")}html.printing body{width:${PAPER_WIDTH}px}`;
}

/** Where readers may put in rows of their own: what stands while a file is held over the page, and afterwards. */
const OPENING =
  '.fresh{display:block;border-left:3px solid var(--brass);padding-left:8px}.takes-file::after{content:"Let go: its rows take the place of the report\'s own";position:fixed;inset:12px;z-index:9;display:grid;place-items:center;font-size:19px;background:var(--sheet);border:2px solid var(--brass);opacity:.94}';

/** The whole stylesheet of a dashboard. */
export function dashboardCss(
  pages: readonly PagePlan[],
  style: StylePlan,
  pieces: readonly { name: string; height?: number }[] = [],
  opens = false,
): string {
  const rules = RULES.replaceAll("\n", "");
  // Names of pieces are letters, digits and low lines.
  const heights = pieces
    .flatMap(({ name, height }) =>
      height ? [`section[data-piece=${name}]{height:${height}px;max-height:100%;align-self:start}`] : [],
    )
    .join("");
  return `${faces(style.type)}${grounds(style)}${rules}${pageRules(pages)}${heights}${opens ? OPENING : ""}${paperRules()}`;
}
