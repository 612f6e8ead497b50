import { specimenUses } from '../../database/uses'

export default defineEventHandler(async () => specimenUses(await useDatabase()))
