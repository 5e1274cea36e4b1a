import { PROOF_POLICY, PROOF_SHELL } from "../../workbench/proof/shell";

/** The empty page that a proof is written into: it has a policy of its own and nothing else. */
export function GET() {
  return new Response(PROOF_SHELL, {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "content-security-policy": PROOF_POLICY,
      "cache-control": "no-store",
    },
  });
}
