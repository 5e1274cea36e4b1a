import MarkdownIt from "markdown-it";

const markdown = new MarkdownIt({ html: false, linkify: false, typographer: false }).disable("image");

/** Markdown as HTML: what looks like markup in it is text, and no picture is fetched. */
export const renderMarkdown = (text: string): string => markdown.render(text).trim();
