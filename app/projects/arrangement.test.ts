import { expect, test } from 'vitest'
import type { ProjectSummary } from '../../shared/api'
import { arrangeProjects, arrangementSchema } from './arrangement'

const project = (name: string, created: string, updated: string): ProjectSummary => ({
  id: name,
  name,
  head: 1,
  created,
  updated,
  thumbnail: null,
  still: null,
})
const PROJECTS = [
  project('Buoy 10', '2026-01-02T00:00:00Z', '2026-01-09T00:00:00Z'),
  project('buoy 9', '2026-01-03T00:00:00Z', '2026-01-04T00:00:00Z'),
  project('Anchor', '2026-01-01T00:00:00Z', '2026-01-05T00:00:00Z'),
]
const names = (text: string, sort: Parameters<typeof arrangeProjects>[2]) =>
  arrangeProjects(PROJECTS, text, sort).map(p => p.name)

test('projects are sorted as a person would, numbers as numbers, and found by any part of their name', () => {
  expect(names('', 'updated')).toEqual(['Buoy 10', 'Anchor', 'buoy 9'])
  expect(names('', 'created')).toEqual(['buoy 9', 'Buoy 10', 'Anchor'])
  expect(names('', 'name')).toEqual(['Anchor', 'buoy 9', 'Buoy 10'])
  expect(names(' UOY', 'name')).toEqual(['buoy 9', 'Buoy 10'])
  expect(names('zz', 'name')).toEqual([])
  expect(PROJECTS.at(0)!.name).toBe('Buoy 10')
})

test('an arrangement that is none is refused', () => {
  expect(arrangementSchema.safeParse({ sort: 'size', as: 'grid' }).success).toBe(false)
  expect(arrangementSchema.safeParse({ sort: 'name', as: 'list' }).success).toBe(true)
})
