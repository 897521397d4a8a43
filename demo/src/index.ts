export { demoProjects, type DemoProject } from './projects'
