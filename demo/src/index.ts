export { ApiClient, ApiError } from './apiClient'
export { password, people } from './plant'
export { seedDemo } from './seed'
