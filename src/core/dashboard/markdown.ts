import MarkdownIt from "markdown-it";

const markdown = new MarkdownIt({ html: false, linkify: false, typographer: false }).disable("image");

/** Titles within a text stand below the report's own, which is the one of the first degree. */
markdown.core.ruler.push("degrees", ({ tokens }) => {
  for (const token of tokens)
    if (token.type.startsWith("heading_")) token.tag = `h${Math.min(6, Number(token.tag.slice(1)) + 1)}`;
});

/** Columns that stand at the right say so by a class: an attribute of style is dead under the dashboard's policy. */
markdown.core.ruler.push("sides", ({ tokens }) => {
  for (const token of tokens) {
    const style = String(token.attrGet("style") ?? "");
    if (style === "") continue;
    token.attrs = (token.attrs ?? []).filter(([name]) => name !== "style");
    if (style.endsWith("right")) token.attrJoin("class", "number");
    else if (style.endsWith("center")) token.attrJoin("class", "middle");
  }
});

/** Markdown as HTML: what looks like markup in it is text, and no picture is fetched. */
export const renderMarkdown = (text: string): string => markdown.render(text).trim();
