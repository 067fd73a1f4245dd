import { AmbientLight, Box3, DirectionalLight, PerspectiveCamera, Scene, Spherical, Vector3, WebGLRenderer } from 'three'
import { OrbitControls } from 'three/addons/controls/OrbitControls.js'
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js'

export interface ModelScene {
  /** Outer measures in words, `12.0 × 12.0 × 40.0 mm` (glTF is in metres). */
  readonly size: string
  /** Turns by angles in radians (about, over) and changes the distance by a factor. */
  turn(about: number, over: number, distance: number): void
  close(): void
}

/** Draws a binary glTF on a canvas, seen from a corner and as large as it fits. @throws {Error} where there is no WebGL, or the file is none. */
export async function openModel(canvas: HTMLCanvasElement, content: ArrayBuffer): Promise<ModelScene> {
  const renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true })
  const { scene: model } = await new GLTFLoader().parseAsync(content, '')
  const box = new Box3().setFromObject(model)
  const [centre, extent] = [box.getCenter(new Vector3()), box.getSize(new Vector3())]
  const reach = extent.length() || 1
  const scene = new Scene()
  scene.add(model, new AmbientLight(0xffffff, 1.2))
  const camera = new PerspectiveCamera(35, 1.6, reach / 100, reach * 20)
  camera.position.copy(centre).add(new Vector3(0.75, 0.55, 1).normalize().multiplyScalar(reach * 1.75))
  const light = new DirectionalLight(0xffffff, 2.4)
  const controls = new OrbitControls(camera, canvas)
  controls.target.copy(centre)
  controls.enablePan = false
  const draw = () => {
    const { clientWidth, clientHeight } = canvas
    if (clientWidth === 0) return
    renderer.setPixelRatio(window.devicePixelRatio)
    renderer.setSize(clientWidth, clientHeight, false)
    camera.aspect = clientWidth / clientHeight
    camera.updateProjectionMatrix()
    // The light stands beside whoever looks.
    light.position.copy(camera.position).add(new Vector3(reach * 0.4, reach * 0.8, 0))
    renderer.render(scene, camera)
  }
  scene.add(light, light.target)
  light.target.position.copy(centre)
  controls.addEventListener('change', draw)
  const watcher = new ResizeObserver(draw)
  watcher.observe(canvas)
  controls.update()
  draw()
  return {
    size: `${[extent.x, extent.y, extent.z].map((side) => (side * 1000).toFixed(1)).join(' × ')} mm`,
    turn(about, over, distance) {
      const at = new Spherical().setFromVector3(camera.position.clone().sub(centre))
      at.theta += about
      at.phi += over
      at.radius *= distance
      at.makeSafe()
      camera.position.setFromSpherical(at).add(centre)
      controls.update()
      draw()
    },
    close() {
      watcher.disconnect()
      controls.dispose()
      renderer.dispose()
    },
  }
}
