/** What a release ships beside its bundles: what the page needs at once said in the page itself, what each desk needs as a
 * list for the server, and the service worker's list of all that is kept on the device. */
import { createHash } from "node:crypto";
import { readFileSync, readdirSync } from "node:fs";
import { join, relative } from "node:path";
import { build, type Plugin, type Rollup } from "vite";

type Bundle = Rollup.OutputBundle;

/** The chunks that are read with this one, itself included. */
function withImports(bundle: Bundle, file: string, found = new Set<string>()): Set<string> {
  const chunk = bundle[file];
  if (chunk?.type !== "chunk" || found.has(file)) return found;
  found.add(file);
  for (const imported of chunk.imports) withImports(bundle, imported, found);
  return found;
}

const named = (bundle: Bundle, ending: string) =>
  Object.values(bundle).find((one) => one.type === "chunk" && one.facadeModuleId?.endsWith(ending))?.fileName ?? "";

const link = (file: string) => `<link rel="modulepreload" crossorigin href="/${file}">`;

/** Where a desk's address is not its name. */
const ADDRESS: Record<string, string> = { Correct: "take-in" };

/** Everything before the first desk comes in one round trip: it is asked for by the page, not by one script after another. */
export function firstDeskAtOnce(): Plugin {
  return {
    name: "first-desk-at-once",
    enforce: "post",
    generateBundle(_, bundle) {
      const page = bundle["index.html"];
      const entry = Object.values(bundle).find((one) => one.type === "chunk" && one.isEntry)?.fileName ?? "";
      const first = withImports(bundle, named(bundle, "/src/Whole.tsx"), withImports(bundle, entry));
      if (page?.type === "asset") {
        const links = [...first].filter((file) => file !== entry && !String(page.source).includes(`href="/${file}"`));
        page.source = String(page.source).replace("</head>", `${links.map(link).join("")}</head>`);
      }
      const desks: Record<string, string[]> = {};
      for (const one of Object.values(bundle)) {
        const desk = one.type === "chunk" && /\/(\w+)Desk\.tsx$/.exec(one.facadeModuleId ?? "")?.[1];
        if (desk)
          desks[ADDRESS[desk] ?? desk.toLowerCase()] = [...withImports(bundle, one.fileName)].filter(
            (file) => !first.has(file),
          );
      }
      this.emitFile({ type: "asset", fileName: "desks.json", source: JSON.stringify(desks) });
    },
  };
}

/** Builds the service worker last, with every file of the release and what tells one edition of it from the next. */
export function keptOnTheDevice(): Plugin {
  return {
    name: "kept-on-the-device",
    apply: "build",
    async closeBundle() {
      const folder = join(import.meta.dirname, "dist");
      const files = readdirSync(folder, { recursive: true, withFileTypes: true })
        .filter((one) => one.isFile() && /\.(html|js|css|woff2)$/.test(one.name) && one.name !== "sw.js")
        .map((one) => join(one.parentPath, one.name))
        .sort();
      const kept = files.map((path) => {
        const url = relative(folder, path);
        const revision = createHash("sha256").update(readFileSync(path)).digest("hex").slice(0, 32);
        return { url, revision: url.startsWith("assets/") ? null : revision };
      });
      await build({
        configFile: false,
        logLevel: "error",
        define: { "self.__WB_MANIFEST": JSON.stringify(kept), "process.env.NODE_ENV": '"production"' },
        build: {
          target: "es2022",
          outDir: folder,
          emptyOutDir: false,
          copyPublicDir: false,
          rollupOptions: { input: join(import.meta.dirname, "src/sw.ts"), output: { entryFileNames: "sw.js" } },
        },
      });
      if (/^\s*(import|export)\s/m.test(readFileSync(join(folder, "sw.js"), "utf8")))
        throw new Error("The service worker must be one file.");
    },
  };
}
