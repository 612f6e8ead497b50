import type { Knex } from 'knex'

/**
 * Tables, in order of making. Documents are `json`, not `jsonb`: the order of attributes is part of what is kept.
 * Everything lies in the database, so a dump is a whole backup.
 */
const list: { name: string; up(db: Knex): Promise<void>; down(db: Knex): Promise<void> }[] = [
  {
    name: '001_first_light',
    async up(db) {
      await db.schema
        .createTable('assets', t => {
          t.text('hash').primary()
          t.text('type').notNullable()
          t.text('name').notNullable()
          t.integer('size').notNullable()
          t.binary('bytes').notNullable()
          t.timestamp('created').notNullable().defaultTo(db.fn.now())
        })
        .createTable('projects', t => {
          t.uuid('id').primary().defaultTo(db.raw('gen_random_uuid()'))
          t.text('name').notNullable()
          t.integer('head').notNullable()
          t.timestamp('created').notNullable().defaultTo(db.fn.now())
          t.timestamp('updated').notNullable().defaultTo(db.fn.now())
        })
        .createTable('scenes', t => {
          t.text('hash').primary()
          t.json('document').notNullable()
        })
        .createTable('materials', t => {
          t.text('hash').primary()
          t.json('document').notNullable()
        })
        .createTable('versions', t => {
          t.uuid('project').notNullable().references('id').inTable('projects').onDelete('CASCADE')
          t.integer('number').notNullable()
          t.integer('parent').notNullable()
          t.text('scene').notNullable().references('hash').inTable('scenes')
          t.text('note').notNullable().defaultTo('')
          // kept beside the line of versions: a save that began from an older one
          t.boolean('aside').notNullable().defaultTo(false)
          t.timestamp('created').notNullable().defaultTo(db.fn.now())
          t.primary(['project', 'number'])
        })
        .createTable('version_materials', t => {
          t.uuid('project').notNullable()
          t.integer('number').notNullable()
          t.text('key').notNullable()
          t.text('material').notNullable().references('hash').inTable('materials')
          t.primary(['project', 'number', 'key'])
          t.foreign(['project', 'number'])
            .references(['project', 'number'])
            .inTable('versions')
            .onDelete('CASCADE')
        })
        .createTable('proofs', t => {
          t.uuid('id').primary().defaultTo(db.raw('gen_random_uuid()'))
          t.uuid('project').notNullable().references('id').inTable('projects').onDelete('CASCADE')
          t.integer('number').notNullable()
          t.text('kind').notNullable()
          t.text('name').notNullable()
          t.integer('width').notNullable()
          t.integer('height').notNullable()
          t.text('picture').notNullable().references('hash').inTable('assets')
          t.text('thumbnail').references('hash').inTable('assets')
          t.json('settings').notNullable()
          t.timestamp('created').notNullable().defaultTo(db.fn.now())
          t.unique(['project', 'number'])
        })
    },
    async down(db) {
      for (const table of ['proofs', 'version_materials', 'versions', 'materials', 'scenes', 'projects', 'assets'])
        await db.schema.dropTable(table)
    },
  },
  {
    name: '002_drafts_and_undoable_deletion',
    async up(db) {
      // a deleted project can be brought back
      await db.schema.alterTable('projects', t => {
        t.timestamp('deleted')
      })
      await db.schema.alterTable('versions', t => {
        t.text('thumbnail').references('hash').inTable('assets')
      })
      await db.schema.createTable('drafts', t => {
        t.uuid('project').primary().references('id').inTable('projects').onDelete('CASCADE')
        // version that the draft began from
        t.integer('base').notNullable()
        t.json('state').notNullable()
        t.timestamp('updated').notNullable().defaultTo(db.fn.now())
      })
    },
    async down(db) {
      await db.schema.dropTable('drafts')
      await db.schema.alterTable('versions', t => {
        t.dropColumn('thumbnail')
      })
      await db.schema.alterTable('projects', t => {
        t.dropColumn('deleted')
      })
    },
  },
  {
    name: '003_notes_and_stars_of_proofs',
    async up(db) {
      await db.schema.alterTable('proofs', t => {
        t.text('note').notNullable().defaultTo('')
        t.boolean('star').notNullable().defaultTo(false)
      })
    },
    async down(db) {
      await db.schema.alterTable('proofs', t => {
        t.dropColumn('note')
        t.dropColumn('star')
      })
    },
  },
  {
    name: '004_built_geometry',
    async up(db) {
      // derived from models by our own code, so that a first opening need not build it; can be emptied at any time
      await db.schema.createTable('geometries', t => {
        t.text('model').references('hash').inTable('assets').onDelete('CASCADE')
        t.integer('version').notNullable()
        t.binary('bytes').notNullable()
        t.primary(['model', 'version'])
      })
    },
    async down(db) {
      await db.schema.dropTable('geometries')
    },
  },
  {
    name: '005_frames',
    async up(db) {
      await db.schema.createTable('frames', t => {
        t.uuid('id').primary().defaultTo(db.raw('gen_random_uuid()'))
        t.uuid('project').notNullable().references('id').inTable('projects').onDelete('CASCADE')
        t.text('name').notNullable()
        t.json('settings').notNullable()
        // all that is rendered, as it was when the frame was asked for
        t.json('state').notNullable()
        t.text('status').notNullable().defaultTo('queued')
        t.integer('passes').notNullable().defaultTo(0)
        t.text('message').notNullable().defaultTo('')
        t.float('seconds').notNullable().defaultTo(0)
        t.text('picture').references('hash').inTable('assets')
        t.text('thumbnail').references('hash').inTable('assets')
        t.timestamp('created').notNullable().defaultTo(db.fn.now())
        t.timestamp('updated').notNullable().defaultTo(db.fn.now())
      })
      // sums of a frame under way: large, written often, and worth no more than the time to compute them again
      await db.raw(
        'create table frame_sums (frame uuid primary key references frames (id) on delete cascade, passes ' +
          'integer not null, bytes bytea not null)',
      )
      await db.schema.createTable('frame_workers', t => {
        t.text('name').primary()
        t.timestamp('seen').notNullable().defaultTo(db.fn.now())
      })
    },
    async down(db) {
      for (const table of ['frame_workers', 'frame_sums', 'frames']) await db.schema.dropTable(table)
    },
  },
  {
    name: '006_frames_that_become_stills',
    async up(db) {
      // what a finished frame is kept as among the proofs of its project, see `Becomes`; it is no frame after that
      await db.schema.alterTable('frames', t => {
        t.json('becomes')
      })
    },
    async down(db) {
      await db.schema.alterTable('frames', t => {
        t.dropColumn('becomes')
      })
    },
  },
  {
    name: '007_sums_in_pieces',
    async up(db) {
      // sums of a frame under way, a square of the picture apiece: none is larger than a few megabytes, so that
      // keeping, dumping and taking up again are bounded, whatever the size of the frame
      await db.raw(
        'create table frame_pieces (frame uuid not null references frames (id) on delete cascade, ' +
          'piece integer not null, passes integer not null, bytes bytea not null, primary key (frame, piece))',
      )
      await db.schema.dropTable('frame_sums')
      // shares of a frame, see `core/render/bands.ts`; one more, numbered −1, is the making of its picture
      await db.schema.createTable('frame_bands', t => {
        t.uuid('frame').notNullable().references('id').inTable('frames').onDelete('CASCADE')
        t.integer('band').notNullable()
        t.integer('passes').notNullable().defaultTo(0)
        t.float('seconds').notNullable().defaultTo(0)
        // whether somebody has begun, and how often it was taken up since anything of it was kept
        t.boolean('taken').notNullable().defaultTo(false)
        t.integer('attempts').notNullable().defaultTo(0)
        t.primary(['frame', 'band'])
      })
      await db.schema.alterTable('frames', t => {
        t.integer('bands').notNullable().defaultTo(1)
      })
      // what is under way begins again: its sums were of another form
      await db.raw("update frames set passes = 0, seconds = 0, status = 'queued' where status = 'running'")
      await db.raw(
        'insert into frame_bands (frame, band) select id, b from frames, (values (0), (-1)) as v (b) ' +
          "where status = 'queued'",
      )
    },
    async down(db) {
      await db.schema.alterTable('frames', t => {
        t.dropColumn('bands')
      })
      await db.schema.dropTable('frame_bands')
      await db.schema.dropTable('frame_pieces')
      await db.raw(
        'create table frame_sums (frame uuid primary key references frames (id) on delete cascade, passes ' +
          'integer not null, bytes bytea not null)',
      )
    },
  },
  {
    name: '008_drafts_of_each_tab',
    async up(db) {
      await db.schema.alterTable('drafts', t => {
        // what was kept before belongs to nobody's tab
        t.text('tab').notNullable().defaultTo('earlier')
        // who works in it: a browser's own name for itself
        t.text('person').notNullable().defaultTo('')
        t.dropPrimary()
        t.primary(['project', 'tab'])
      })
    },
    async down(db) {
      await db.raw(
        'delete from drafts d where exists (select 1 from drafts e where e.project = d.project ' +
          'and (e.updated, e.tab) > (d.updated, d.tab))',
      )
      await db.schema.alterTable('drafts', t => {
        t.dropPrimary()
        t.primary(['project'])
        t.dropColumn('tab')
        t.dropColumn('person')
      })
    },
  },
]

export const migrations = {
  getMigrations: async () => list,
  getMigrationName: (m: (typeof list)[number]) => m.name,
  getMigration: async (m: (typeof list)[number]) => m,
}
