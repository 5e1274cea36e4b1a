import { type NextRequest, NextResponse } from "next/server";
import { workbenchPolicy } from "./server/policy";

/** Gives every page of the workbench its content policy, with a nonce of its own for its scripts. */
export function proxy(request: NextRequest) {
  const nonce = btoa(crypto.randomUUID());
  const policy = workbenchPolicy(nonce);
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  response.headers.set("referrer-policy", "no-referrer");
  response.headers.set("x-content-type-options", "nosniff");
  return response;
}

export const config = { matcher: ["/"] };
