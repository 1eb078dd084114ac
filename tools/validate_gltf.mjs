// Prints the counts of gltf-validator for each file, a JSON object a line.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";

const validator = createRequire(new URL("../web/package.json", import.meta.url))("gltf-validator");
for (const path of process.argv.slice(2)) {
  const { issues } = await validator.validateBytes(new Uint8Array(readFileSync(path)));
  console.log(JSON.stringify({ path, ...issues }));
}
