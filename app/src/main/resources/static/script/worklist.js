// The worklist: walking and choosing with keys, the glance, lanes, and changes that come in.
import "./worklist/walking.js";
import "./worklist/choosing.js";
import "./worklist/glance.js";
import "./worklist/lanes.js";
import "./worklist/columns.js";
import "./worklist/horizon.js";
import "./worklist/changes.js";
import "./worklist/returning.js";
