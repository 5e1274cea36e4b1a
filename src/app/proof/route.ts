import { PROOF_POLICY, PROOF_SHELL } from "../../workbench/proof/shell";

/** The empty page that a proof is written into: it has a policy of its own and nothing else. */
export function GET() {
  return new Response(PROOF_SHELL, {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "content-security-policy": PROOF_POLICY,
      // The shell holds nothing of anybody's; a proof is loaded at every keystroke and need not ask for it again.
      "cache-control": "private, max-age=300",
    },
  });
}
