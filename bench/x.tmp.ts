import { readVisit } from "@/core/formats/visit";
import { createEngine } from "@/core/decision/engine";
import { readRuleset } from "@/core/ruleset/check";
import { readDeviceOnce } from "@/delivery/devices";
const r = (n:number)=>Math.floor(Math.random()*n);
const read = readRuleset({ format: "mirada-ruleset/1",
    site: { id: "b", name: "Bench", zone: "Europe/Lisbon", currency: "EUR", language: "en", origin: "https://shop.example" },
    slots: [ { id: "s", name: "S", variants: Array.from({ length: 50 }, (_, number) => ({ id: `v${number}`, name: `V ${number}`,
          rule: { all: [ { signal: "campaign.source", op: "is", value: `source-${number}` }, { signal: "device.kind", op: "is", value: ["phone", "desktop"][r(2)] }, { signal: "place", op: "isIn", value: [{ country: "PT" }, { country: "ES" }] } ] },
          arms: [{ id: "a", weight: 100, content: null }] })) } ] });
if (!read.ok) throw 1;
const engine = createEngine(read.value, { device: readDeviceOnce });
const bodies = Array.from({ length: 200 }, (_, number) => JSON.stringify({ visit: { at: "2026-11-24T10:15:00Z", url: `https://shop.example/ferns?utm_source=source-${number % 60}`, userAgent: "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36", acceptLanguage: "pt-PT,pt;q=0.9", place: { country: ["PT", "ES", "DE"][number % 3] } } }));
const parsed = bodies.map(b=>JSON.parse(b));
const visits = parsed.map(p=>{const v=readVisit(p.visit); if(!v.ok) throw 2; return v.value;});
const decisions = visits.map(v=>engine.decide(v));
const time=(name:string,f:(i:number)=>unknown)=>{ let best=1e9; for(let round=0;round<7;round++){const b=process.cpuUsage(); for(let k=0;k<50;k++) for(let i=0;i<200;i++) f(i); const u=process.cpuUsage(b); best=Math.min(best,(u.user+u.system)/10000);} console.log(name,best.toFixed(2),"µs"); };
time("parse",i=>JSON.parse(bodies[i]!));
time("readVisit",i=>readVisit(parsed[i].visit));
time("decide",i=>engine.decide(visits[i]!));
time("read only",i=>engine.read(visits[i]!));
time("stringify",i=>JSON.stringify({release:1,decision:decisions[i]}));
console.log(JSON.stringify(decisions[1]));
