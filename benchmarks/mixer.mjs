// The same rig evaluated by three.js's animation mixer; prints the median seconds of several runs.
import { createRequire } from "node:module";
import { pathToFileURL } from "node:url";

// Found from the front end's folder, in which this is run.
const require = createRequire(process.cwd() + "/package.json");
const THREE = await import(pathToFileURL(require.resolve("three").replace(/three\.cjs$/, "three.module.js")));
let text = "";
for await (const chunk of process.stdin) text += chunk;
const { parents, frames, keys, seconds } = JSON.parse(text);

const nodes = parents.map((_, i) => Object.assign(new THREE.Object3D(), { name: `joint_${i}` }));
parents.forEach((parent, i) => parent >= 0 && nodes[parent].add(nodes[i]));
const times = Float32Array.from({ length: keys }, (_, k) => (k * seconds) / (keys - 1));
const tracks = nodes.map((node) => {
  const values = new Float32Array(keys * 4);
  for (let k = 0; k < keys; k++) {
    const turn = new THREE.Quaternion(Math.random() * 0.2, Math.random() * 0.2, Math.random() * 0.2, 1).normalize();
    turn.toArray(values, 4 * k);
  }
  return new THREE.QuaternionKeyframeTrack(`${node.name}.quaternion`, times, values);
});
tracks.push(new THREE.VectorKeyframeTrack("joint_0.position", times, new Float32Array(keys * 3)));
const mixer = new THREE.AnimationMixer(nodes[0]);
mixer.clipAction(new THREE.AnimationClip("motion", seconds, tracks)).play();
const out = new Float64Array(frames * nodes.length * 16);

function evaluate() {
  for (let frame = 0; frame < frames; frame++) {
    mixer.setTime((frame * seconds) / frames);
    nodes[0].updateMatrixWorld(true);
    nodes.forEach((node, i) => out.set(node.matrixWorld.elements, (frame * nodes.length + i) * 16));
  }
}

const runs = [];
for (let run = 0; run < 8; run++) {
  const began = performance.now();
  evaluate();
  if (run > 1) runs.push((performance.now() - began) / 1000);
}
runs.sort((a, b) => a - b);
console.log(runs[Math.floor(runs.length / 2)]);
