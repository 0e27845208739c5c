/** Everything that lives in the browser alone. The pages work without it, but for the keys, the
 * phone's tabs, and tapping along with a panel. */

import * as buttons from "./buttons.js";
import { Coach } from "./coach.js";
import * as focus from "./focus.js";
import { Handwheel } from "./handwheel.js";
import { Keys } from "./keys.js";
import { LampTest } from "./lamptest.js";
import * as marking from "./marking.js";
import { Meter } from "./meter.js";
import * as others from "./others.js";
import { Panel } from "./panel.js";
import { RigPanel } from "./rigpanel.js";
import * as sending from "./sending.js";
import * as tabs from "./tabs.js";
import { Aloud, Counter, Soak, Stopwatch } from "./watches.js";

/** The parts of pages, by the names the templates give them in `x-data`. */
const PARTS = {
  aloud: Aloud,
  coach: Coach,
  counter: Counter,
  handwheel: Handwheel,
  job: tabs.Tabs,
  keys: Keys,
  lamptest: LampTest,
  meter: Meter,
  panel: Panel,
  rigpanel: RigPanel,
  soak: Soak,
  stopwatch: Stopwatch,
};

document.addEventListener("alpine:init", () => {
  for (const [name, Made] of Object.entries(PARTS)) Alpine.data(name, () => new Made());
});
for (const subject of [focus, others, sending, marking, tabs, buttons]) subject.watch();
document.addEventListener("alpine:initialized", () => {
  document.documentElement.dataset.listens = "";
});
