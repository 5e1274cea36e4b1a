import { answerBuild } from "../../../server/answer-build";

export const runtime = "nodejs";
export const dynamic = "force-dynamic";

export function POST(request: Request) {
  return answerBuild(request);
}
