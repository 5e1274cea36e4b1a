import { expect, test } from "vitest";
import { renderMarkdown } from "./markdown";

test("titles within a text stand below the report's own", () => {
  expect(renderMarkdown("# One\n## Two\n###### Six")).toBe("<h2>One</h2>\n<h3>Two</h3>\n<h6>Six</h6>");
});

test("columns of a table stand at their side by a class, for styles in attributes are dead", () => {
  const html = renderMarkdown("| a | b | c | d |\n|---|--:|:-:|:--|\n| 1 | 2 | 3 | 4 |");
  expect(html).not.toContain("style=");
  expect(html).toContain('<th>a</th>\n<th class="number">b</th>\n<th class="middle">c</th>\n<th>d</th>');
  expect(html).toContain('<td>1</td>\n<td class="number">2</td>\n<td class="middle">3</td>\n<td>4</td>');
});

test("markup is text, pictures are not fetched, and no link runs a script", () => {
  const html = renderMarkdown("<b>bold</b> ![x](x.png) [y](javascript:alert(1)) [z](https://example.invalid/z)");
  expect(html).not.toMatch(/<b>|<img|href="javascript/);
  expect(html).toContain("&lt;b&gt;bold&lt;/b&gt;");
  expect(html).toContain('<a href="https://example.invalid/z">z</a>');
});
