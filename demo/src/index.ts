export { password, people } from './plant'
export { seedDemo } from './seed'
