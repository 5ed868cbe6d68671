// Small enhancers over server HTML. Without them every page works as ordinary forms.
import { attachAreas } from "./areas.js";
import { attachFiles } from "./files.js";
import { attachHandles } from "./handles.js";
import { attachHere } from "./here.js";
import { attachKeys } from "./keys.js";
import { attachLines } from "./lines.js";
import { attachLive } from "./live.js";
import { attachPending } from "./pending.js";
import { attachReadouts } from "./readout.js";

attachKeys(document);
attachReadouts(document);
attachFiles(document);
attachHandles(document);
attachAreas(document);
attachPending(document);
attachLines(document);

// What a single page needs is fetched there.
if (document.querySelector("form[data-queue]")) void import("./queue.js").then((one) => one.attachQueue(document));
if (document.querySelector("form[data-quick]")) void import("./quick.js").then((one) => one.attachQuick(document));
if (document.querySelector("#run-part")) void import("./player.js").then((one) => one.attachPlayer(document));

if (document.querySelector('a[href*=".pdf"]')) void import("./waits.js").then((one) => one.attachWaits(document));

const live = document.querySelector("[data-live]");
if (live instanceof HTMLElement) attachHere(live, attachLive(live));

for (const button of document.querySelectorAll("[data-print]")) {
  button.removeAttribute("hidden");
  button.addEventListener("click", () => window.print());
}
