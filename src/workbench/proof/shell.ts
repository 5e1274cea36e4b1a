/**
 * The shell of the proof. It runs in a sandboxed frame without an origin, waits for the text of a
 * dashboard and the state that its address is to have, and writes it as its own document. The
 * dashboard's own policy then holds beside this one.
 */
export const PROOF_SHELL = `<!doctype html><meta charset="utf-8"><title>proof</title><script>
addEventListener("message",function take(event){
if(event.source!==parent||!event.data||event.data.stillHarbor!=="proof")return;
removeEventListener("message",take);
if(event.data.hash)location.hash=event.data.hash;
document.open();document.write(event.data.html);document.close();
});
parent.postMessage({stillHarbor:"shell"},"*");
</script>`;

export const PROOF_POLICY =
  "default-src 'none'; script-src 'unsafe-inline'; style-src 'unsafe-inline'; img-src data: blob:; font-src data:; base-uri 'none'; form-action 'none'; frame-ancestors 'self'";
