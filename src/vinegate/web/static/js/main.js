// Small enhancers over server HTML. Without them every page works as ordinary forms.
import { attachAreas } from "./areas.js";
import { attachFiles } from "./files.js";
import { attachHandles } from "./handles.js";
import { attachHere } from "./here.js";
import { attachKeys } from "./keys.js";
import { attachLines } from "./lines.js";
import { attachLive } from "./live.js";
import { attachPending } from "./pending.js";
import { attachPlayer } from "./player.js";
import { attachQueue } from "./queue.js";
import { attachQuick } from "./quick.js";
import { attachReadouts } from "./readout.js";

attachKeys(document);
attachReadouts(document);
attachFiles(document);
attachHandles(document);
attachAreas(document);
attachPending(document);
attachLines(document);
attachQueue(document);
attachQuick(document);
attachPlayer(document);

const live = document.querySelector("[data-live]");
if (live) attachHere(live, attachLive(live));

for (const button of document.querySelectorAll("[data-print]")) {
  button.hidden = false;
  button.addEventListener("click", () => window.print());
}
