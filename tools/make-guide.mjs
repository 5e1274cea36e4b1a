/**
 * The guide as the workbench shows it: each of its parts as HTML, with its pictures beside it. What the guide
 * links to in the house is words there.
 */
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import MarkdownIt from "markdown-it";

const OUT = "public/guide";

export function makeGuide() {
  mkdirSync(OUT, { recursive: true });
  const text = readFileSync("docs/guide.md", "utf8");
  const markdown = new MarkdownIt({ html: false });
  markdown.renderer.rules.image = (tokens, at) => {
    const file = tokens[at].attrGet("src").replace("screenshots/", "");
    copyFileSync(`docs/screenshots/${file}`, `${OUT}/${file}`);
    return `<img src="/guide/${markdown.utils.escapeHtml(file)}" alt="${markdown.utils.escapeHtml(tokens[at].content)}" width="1280" height="800">`;
  };
  markdown.renderer.rules.link_open = () => "<em>";
  markdown.renderer.rules.link_close = () => "</em>";
  const parts = text.split(/^## /m).slice(1);
  const read = parts.map((part) => {
    const end = part.indexOf("\n");
    return { title: part.slice(0, end).replace(/^\d+\. /, ""), html: markdown.render(part.slice(end)) };
  });
  writeFileSync(`${OUT}/guide.json`, JSON.stringify(read));
}
