/** The demo report, as it stands beside the workbench. */
export const DEMO = {
  sheet: "quay-calls.still.yaml",
  files: ["calls.csv"],
} as const;

async function fetched(path: string): Promise<Response> {
  const response = await fetch(path);
  if (!response.ok) throw new Error(`${path} could not be read (${response.status})`);
  return response;
}

export interface OpenedDemo {
  text: string;
  viewer: string;
  files: [string, Uint8Array][];
}

export async function openDemo(): Promise<OpenedDemo> {
  const [text, viewer, ...bytes] = await Promise.all([
    fetched(`/demo/${DEMO.sheet}`).then((response) => response.text()),
    fetched("/demo/viewer.js").then((response) => response.text()),
    ...DEMO.files.map((file) => fetched(`/demo/${file}`).then((response) => response.arrayBuffer())),
  ]);
  return { text: text as string, viewer: viewer as string, files: DEMO.files.map((file, at) => [file, new Uint8Array(bytes[at] as ArrayBuffer)]) };
}
