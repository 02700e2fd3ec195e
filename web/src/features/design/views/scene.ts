/** The solid in three dimensions: loaded only when it is looked at. Knows nothing of React. */

import {
  AmbientLight,
  Box3,
  Color,
  DirectionalLight,
  DoubleSide,
  type Group,
  Mesh,
  MeshBasicMaterial,
  type MeshStandardMaterial,
  PerspectiveCamera,
  Plane,
  PlaneGeometry,
  Scene,
  SRGBColorSpace,
  TextureLoader,
  Vector3,
  WebGLRenderer,
} from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";

const MM = 1e-3;

/**
 * Where a cut runs: across at x, down to z, or a blade across at x (`middle`: height of the picture's middle above the
 * blade's zero); picture: what shows there (an object address), its size in mm.
 */
export type Cut = {
  kind: "across" | "down" | "blade";
  at: number;
  picture: string | null;
  width: number;
  height: number;
  middle?: number;
};

export type View3d = {
  load: (glb: ArrayBuffer) => Promise<void>;
  cut: (cut: Cut | null) => void;
  resize: (width: number, height: number) => void;
  /** Turns the solid by so many degrees. */
  turn: (right: number, up: number) => void;
  close: () => void;
};

/** Throws when the browser has no WebGL. */
export function openView(canvas: HTMLCanvasElement, ground: string): View3d {
  const renderer = new WebGLRenderer({ canvas, antialias: true });
  renderer.outputColorSpace = SRGBColorSpace;
  renderer.localClippingEnabled = true;
  renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
  const scene = new Scene();
  scene.background = new Color(ground);
  scene.add(new AmbientLight(0xffffff, 1.7));
  const sun = new DirectionalLight(0xffffff, 2.2);
  sun.position.set(0.3, 1, 0.6);
  scene.add(sun);
  const fill = new DirectionalLight(0xffffff, 0.7);
  fill.position.set(-0.6, -0.4, -0.8);
  scene.add(fill);
  const camera = new PerspectiveCamera(32, 1, 1e-3, 50);
  const controls = new OrbitControls(camera, canvas);
  controls.enablePan = false;
  let solid: Group | null = null;
  let cap: Mesh<PlaneGeometry, MeshBasicMaterial> | null = null;
  let length = 0;

  const paint = () => renderer.render(scene, camera);
  controls.addEventListener("change", paint);

  const look = () => {
    if (!solid) return;
    const box = new Box3().setFromObject(solid);
    const size = box.getSize(new Vector3());
    const middle = box.getCenter(new Vector3());
    controls.target.copy(middle);
    const from = new Vector3(0.62, 0.5, 0.72).normalize();
    // as near as all eight corners allow
    camera.position.copy(middle).add(from);
    camera.lookAt(middle);
    camera.updateMatrixWorld();
    const high = Math.tan((camera.fov * Math.PI) / 360);
    let far = size.length() / 20;
    for (let i = 0; i < 8; i++) {
      const corner = new Vector3(i & 1 ? size.x : -size.x, i & 2 ? size.y : -size.y, i & 4 ? size.z : -size.z).multiplyScalar(
        0.5,
      );
      const seen = corner.applyQuaternion(camera.quaternion.clone().invert());
      far = Math.max(far, seen.z + Math.abs(seen.x) / (high * camera.aspect), seen.z + Math.abs(seen.y) / high);
    }
    far *= 1.06;
    camera.position.copy(middle).add(from.multiplyScalar(far));
    camera.near = far / 100;
    camera.far = far * 10;
    camera.updateProjectionMatrix();
    controls.update();
    length = size.x;
  };

  const materials = () => {
    const found: MeshStandardMaterial[] = [];
    solid?.traverse((o) => {
      if (o instanceof Mesh) found.push(o.material as MeshStandardMaterial);
    });
    return found;
  };

  const dropCap = () => {
    if (!cap) return;
    scene.remove(cap);
    cap.geometry.dispose();
    cap.material.map?.dispose();
    cap.material.dispose();
    cap = null;
  };

  return {
    async load(glb) {
      const found = await new GLTFLoader().parseAsync(glb, "");
      if (solid) scene.remove(solid);
      solid = found.scene;
      scene.add(solid);
      look();
      paint();
    },
    cut(cut) {
      // glTF's y is our z, its z our -y
      const plane = !cut
        ? null
        : cut.kind !== "down"
          ? new Plane(new Vector3(-1, 0, 0), cut.at * MM)
          : new Plane(new Vector3(0, -1, 0), cut.at * MM);
      for (const m of materials()) {
        m.clippingPlanes = plane ? [plane] : [];
        m.side = DoubleSide;
        m.needsUpdate = true;
      }
      dropCap();
      if (cut?.picture) {
        const flat = cut;
        new TextureLoader().load(cut.picture, (map) => {
          map.colorSpace = SRGBColorSpace;
          dropCap();
          cap = new Mesh(
            new PlaneGeometry(flat.width * MM, flat.height * MM),
            new MeshBasicMaterial({ map, transparent: true, side: DoubleSide, alphaTest: 0.5 }),
          );
          if (flat.kind === "across") {
            // the picture's right is +y, which is -z here
            cap.rotation.y = Math.PI / 2;
            cap.position.set(flat.at * MM, 0, 0);
          } else if (flat.kind === "blade") {
            // right face to the right (up here), edge down (our -y: +z here)
            cap.rotation.set(0, -Math.PI / 2, Math.PI / 2, "YXZ");
            cap.position.set(flat.at * MM, 0, -(flat.middle ?? 0) * MM);
          } else {
            cap.rotation.x = -Math.PI / 2;
            cap.position.set(length / 2, flat.at * MM, 0);
          }
          scene.add(cap);
          paint();
        });
      }
      paint();
    },
    resize(width, height) {
      renderer.setSize(width, height, false);
      camera.aspect = width / Math.max(1, height);
      camera.updateProjectionMatrix();
      if (solid) look();
      paint();
    },
    turn(right, up) {
      const off = camera.position.clone().sub(controls.target);
      off.applyAxisAngle(new Vector3(0, 1, 0), (-right * Math.PI) / 180);
      const side = new Vector3().crossVectors(new Vector3(0, 1, 0), off).normalize();
      const tilted = off.clone().applyAxisAngle(side, (-up * Math.PI) / 180);
      // never over the top
      if (Math.abs(tilted.clone().normalize().y) < 0.985) off.copy(tilted);
      camera.position.copy(controls.target).add(off);
      controls.update();
      paint();
    },
    close() {
      dropCap();
      controls.dispose();
      for (const m of materials()) {
        m.map?.dispose();
        m.dispose();
      }
      renderer.dispose();
    },
  };
}
