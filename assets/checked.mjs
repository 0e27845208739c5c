// Writes the hash of the scripts the type checker has passed; a test compares it with the scripts.
import { createHash } from "node:crypto";
import { readdirSync, readFileSync, writeFileSync } from "node:fs";

const folder = "../src/bottega/web/static/scripts/";
const hash = createHash("sha256");
for (const name of readdirSync(folder).sort()) hash.update(name).update(readFileSync(folder + name));
writeFileSync("checked.sha256", hash.digest("hex") + "\n");
