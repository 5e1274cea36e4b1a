import type { ViewerKit } from "../../core/dashboard/parts";

/** The demo report, as it stands beside the workbench. */
export const DEMO_SHEET = "quay-calls.still.yaml";
const FILES = ["calls.csv"];

async function fetched(path: string): Promise<Response> {
  const response = await fetch(path);
  if (!response.ok) throw new Error(`${path} could not be read (${response.status})`);
  return response;
}

let kit: Promise<ViewerKit> | undefined;

/** The viewer, of which every dashboard gets its parts; fetched once. */
export function viewerKit(): Promise<ViewerKit> {
  kit ??= fetched("/demo/viewer.json").then((response) => response.json() as Promise<ViewerKit>);
  kit.catch(() => {
    kit = undefined;
  });
  return kit;
}

export async function openDemo(): Promise<{ text: string; files: [string, Uint8Array][] }> {
  const text = await (await fetched(`/demo/${DEMO_SHEET}`)).text();
  const files = await Promise.all(
    FILES.map(
      async (file): Promise<[string, Uint8Array]> => [
        file,
        new Uint8Array(await (await fetched(`/demo/${file}`)).arrayBuffer()),
      ],
    ),
  );
  return { text, files };
}
