import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { Dexie } from "dexie";
import type { ProjectFiles } from "../../core/project/archive";
import type { Database, LookRow, ProjectRow, VersionRow } from "./database";

/** What became of a save. */
export type Saved = { type: "saved"; revision: number } | { type: "elsewhere" } | { type: "refused"; reason: string };

/** Versions beyond this leave from the oldest. */
const MOST_VERSIONS = 60;

/** The hash by which a content is known. The browser's own, beside the page's thread, where there is one. */
export async function hashOf(bytes: Uint8Array): Promise<string> {
  // On plain http `crypto.subtle` is missing.
  if (globalThis.crypto?.subtle)
    return bytesToHex(new Uint8Array(await crypto.subtle.digest("SHA-256", bytes as BufferSource)));
  return bytesToHex(sha256(bytes));
}

/** Why a browser did not keep something, in words. */
export function refusal(fault: unknown): string {
  const chain: { name?: string; message?: string }[] = [];
  for (
    let one = fault as { name?: string; message?: string; inner?: unknown } | undefined;
    one && chain.length < 5;
    one = one.inner as typeof one
  )
    chain.push(one);
  if (chain.some(({ name }) => name === "QuotaExceededError")) return "the browser's storage is full";
  return `the browser does not keep it (${chain[0]?.message ?? String(fault)})`;
}

/** Reports in the browser's storage. Nothing here throws for want of room: it is answered. */
export class Projects {
  constructor(private readonly database: Database) {}

  list(): Promise<ProjectRow[]> {
    return this.database.projects.orderBy("changed").reverse().toArray();
  }

  load(id: string): Promise<ProjectRow | undefined> {
    return this.database.projects.get(id);
  }

  async bytes(hash: string): Promise<Uint8Array | undefined> {
    return (await this.database.contents.get(hash))?.bytes;
  }

  /** Keeps bytes under their hash. */
  async keep(hash: string, bytes: Uint8Array): Promise<string | undefined> {
    try {
      if ((await this.database.contents.where("hash").equals(hash).count()) === 0)
        await this.database.contents.put({ hash, bytes });
      return undefined;
    } catch (fault) {
      return refusal(fault);
    }
  }

  /**
   * What of a report the browser has not any more: the report itself, contents of its files. Nothing where all
   * is there.
   */
  async lost(
    id: string,
    hashes: readonly string[],
  ): Promise<{ report: boolean; hashes: ReadonlySet<string> } | undefined> {
    try {
      const kept = new Set(
        (await this.database.contents
          .where("hash")
          .anyOf([...hashes])
          .primaryKeys()) as string[],
      );
      const missing = new Set(hashes.filter((hash) => !kept.has(hash)));
      const report = (await this.database.projects.where("id").equals(id).count()) === 0;
      return report || missing.size ? { report, hashes: missing } : undefined;
    } catch {
      // A browser that cannot be asked says so at the next save, in words.
      return undefined;
    }
  }

  /** Saves a report unless somebody else has saved it since `row.revision`. */
  async save(row: ProjectRow): Promise<Saved> {
    try {
      return await this.database.transaction("rw", this.database.projects, async (): Promise<Saved> => {
        const known = await this.database.projects.get(row.id);
        if (known && known.revision !== row.revision) return { type: "elsewhere" };
        const revision = row.revision + 1;
        await this.database.projects.put({ ...row, revision });
        return { type: "saved", revision };
      });
    } catch (fault) {
      return { type: "refused", reason: refusal(fault) };
    }
  }

  /** How reports looked last, by their names. */
  async looks(): Promise<Map<string, LookRow>> {
    return new Map((await this.database.looks.toArray()).map((look) => [look.project, look]));
  }

  /**
   * Keeps how a report looks; one that was thrown away meanwhile, or finds no room, has no picture. Nothing is held
   * of the reports themselves: a tab in the background could keep another from saving for as long as it has no turn.
   */
  async keepLook(look: LookRow): Promise<void> {
    try {
      if (await this.database.projects.get(look.project)) await this.database.looks.put(look);
    } catch (fault) {
      console.warn(`no picture of the report was kept: ${refusal(fault)}`);
    }
  }

  versions(project: string): Promise<VersionRow[]> {
    return this.database.versions.where("project").equals(project).reverse().sortBy("made");
  }

  /** Keeps a state to go back to, unless it is the one kept last. */
  async addVersion(version: VersionRow): Promise<string | undefined> {
    try {
      await this.database.transaction("rw", this.database.versions, async () => {
        const kept = await this.database.versions.where("project").equals(version.project).sortBy("made");
        const last = kept.at(-1);
        if (last?.text === version.text && JSON.stringify(last.files) === JSON.stringify(version.files)) return;
        await this.database.versions.add(version);
        for (const old of kept.slice(0, Math.max(0, kept.length + 1 - MOST_VERSIONS)))
          await this.database.versions.delete(old.id as number);
      });
      return undefined;
    } catch (fault) {
      return refusal(fault);
    }
  }

  /** Takes a report away with its versions, and the bytes that nothing else holds. */
  async remove(id: string): Promise<void> {
    const { projects, versions, contents, looks } = this.database;
    await this.database.transaction("rw", projects, versions, contents, looks, async () => {
      await projects.delete(id);
      await looks.delete(id);
      await versions.where("project").equals(id).delete();
      const held = new Set<string>();
      for (const row of [...(await projects.toArray()), ...(await versions.toArray())])
        for (const [, hash] of row.files) held.add(hash);
      const kept = (await contents.toCollection().primaryKeys()) as string[];
      await contents.bulkDelete(kept.filter((hash) => !held.has(hash)));
    });
  }

  /** A report with all its bytes, as it goes into a zip. */
  async whole(row: ProjectRow, memory: ReadonlyMap<string, Uint8Array>): Promise<ProjectFiles> {
    const files = new Map<string, Uint8Array>();
    for (const [path, hash] of row.files) {
      const bytes = memory.get(hash) ?? (await this.bytes(hash));
      if (bytes) files.set(path, bytes);
    }
    return { sheetName: row.sheetName, text: row.text, files };
  }

  /** Calls back with a report whenever it changes, also in another tab. Answers how to stop. */
  follow(id: string, changed: (row: ProjectRow) => void): () => void {
    const subscription = Dexie.liveQuery(() => this.database.projects.get(id)).subscribe({
      next: (row) => row && changed(row),
    });
    return () => subscription.unsubscribe();
  }
}
