import { load } from "../../../server/answer-build";
import { LIMITS } from "../../../server/limits";

export const runtime = "nodejs";
export const dynamic = "force-dynamic";

/** Says that the server answers, how busy it is and what it takes. */
export function GET() {
  return Response.json({ ok: true, builds: load(), limits: LIMITS }, { headers: { "cache-control": "no-store" } });
}
