import { randomUUID } from 'node:crypto'
import { mkdirSync } from 'node:fs'
import { dirname } from 'node:path'
import { DataTypes, Op, Sequelize, type Model, type ModelStatic } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { readDocument } from '../../core/piece/migrate'
import { photosOf, type PieceDocument } from '../../core/piece/schema'
import type { PhotoFacts } from '../photos/inspect'
import { migrations } from './migrations'
import type { ListedPiece, SaveResult, Storage, StoredPiece } from './storage'
import { summarize, type PieceSummary } from './summary'

interface PieceRow {
  id: string
  name: string
  setName: string | null
  place: number | null
  revision: number
  document: string
  summary: string
  photoSha256: string | null
  updatedAt: string
  deletedAt: string | null
}

interface PhotoRow {
  sha256: string
  mediaType: string
  width: number
  height: number
  focalLength35mm: number | null
  bytes: Buffer
  thumbnail: Buffer
  addedAt: string
}

/** Pieces and photos in one SQLite file. */
export class SqliteStorage implements Storage {
  private constructor(
    private sequelize: Sequelize,
    private pieces: ModelStatic<Model<PieceRow, PieceRow>>,
    private photos: ModelStatic<Model<PhotoRow, PhotoRow>>,
  ) {}

  /** Opens or creates the database and brings its tables up to date. */
  static async open(file: string): Promise<SqliteStorage> {
    if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true })
    const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false })
    // FULL: what was answered as saved survives a power cut too, not only a killed process.
    for (const pragma of [
      'journal_mode = WAL',
      'synchronous = FULL',
      'foreign_keys = ON',
      'busy_timeout = 5000',
    ]) {
      await sequelize.query(`PRAGMA ${pragma}`)
    }
    const umzug = new Umzug({
      migrations,
      context: sequelize.getQueryInterface(),
      storage: new SequelizeStorage({ sequelize }),
      logger: undefined,
    })
    await umzug.up()
    return new SqliteStorage(sequelize, definePieces(sequelize), definePhotos(sequelize))
  }

  async listPieces(): Promise<ListedPiece[]> {
    const rows = await this.pieces.findAll({
      where: { deletedAt: null },
      attributes: { exclude: ['document'] },
      order: [['updatedAt', 'DESC']],
      raw: true,
    })
    return (rows as unknown as PieceRow[]).map(
      ({ id, name, setName, place, revision, summary, photoSha256, updatedAt }) => ({
        id,
        name,
        setName,
        place,
        revision,
        photoSha256,
        updatedAt,
        summary: JSON.parse(summary) as PieceSummary,
      }),
    )
  }

  async getPiece(id: string): Promise<StoredPiece | null> {
    const row = (await this.pieces.findOne({ where: { id, deletedAt: null }, raw: true })) as PieceRow | null
    if (!row) return null
    const { setName, place, revision, updatedAt } = row
    return { id, setName, place, revision, updatedAt, document: readDocument(JSON.parse(row.document)) }
  }

  async createPiece(document: PieceDocument, setName: string | null): Promise<StoredPiece> {
    const piece: StoredPiece = {
      id: randomUUID(),
      setName,
      place: null,
      revision: 1,
      updatedAt: new Date().toISOString(),
      document,
    }
    await this.pieces.create({
      id: piece.id,
      setName,
      place: null,
      revision: 1,
      updatedAt: piece.updatedAt,
      deletedAt: null,
      ...columnsOf(document),
    })
    return piece
  }

  async arrangePieces(setName: string | null, ids: readonly string[]): Promise<void> {
    await this.sequelize.transaction(async (transaction) => {
      for (const [place, id] of ids.entries())
        await this.pieces.update({ setName, place }, { where: { id, deletedAt: null }, transaction })
    })
  }

  async savePiece(id: string, baseRevision: number, document: PieceDocument): Promise<SaveResult> {
    const updatedAt = new Date().toISOString()
    const revision = baseRevision + 1
    // One statement, so that of two writers with the same base exactly one gets through.
    const [changed] = await this.pieces.update(
      { ...columnsOf(document), revision, updatedAt },
      { where: { id, revision: baseRevision, deletedAt: null } },
    )
    if (changed === 1) return { ok: true, revision, updatedAt }
    const current = await this.getPiece(id)
    return current
      ? { ok: false, reason: 'conflict', revision: current.revision }
      : { ok: false, reason: 'missing' }
  }

  async deletePiece(id: string): Promise<boolean> {
    const [changed] = await this.pieces.update(
      { deletedAt: new Date().toISOString() },
      { where: { id, deletedAt: null } },
    )
    return changed === 1
  }

  async restorePiece(id: string): Promise<boolean> {
    const [changed] = await this.pieces.update(
      { deletedAt: null },
      { where: { id, deletedAt: { [Op.ne]: null } } },
    )
    return changed === 1
  }

  async putPhoto(facts: PhotoFacts, bytes: Buffer, thumbnail: Buffer): Promise<void> {
    await this.photos.bulkCreate([{ ...facts, bytes, thumbnail, addedAt: new Date().toISOString() }], {
      ignoreDuplicates: true,
    })
  }

  async getPhoto(sha256: string) {
    const row = (await this.photos.findByPk(sha256, {
      attributes: ['bytes', 'mediaType'],
      raw: true,
    })) as PhotoRow | null
    return row && { bytes: row.bytes, mediaType: row.mediaType }
  }

  async getThumbnail(sha256: string) {
    const row = (await this.photos.findByPk(sha256, {
      attributes: ['thumbnail'],
      raw: true,
    })) as PhotoRow | null
    return row?.thumbnail ?? null
  }

  async hasPhoto(sha256: string) {
    return (await this.photos.count({ where: { sha256 } })) === 1
  }

  async purge(before: Date): Promise<void> {
    const limit = before.toISOString()
    await this.pieces.destroy({ where: { deletedAt: { [Op.lt]: limit } } })
    const rows = (await this.pieces.findAll({ attributes: ['document'], raw: true })) as unknown as PieceRow[]
    const used = usedPhotos(rows)
    if (!used) return
    const old = (await this.photos.findAll({ where: { addedAt: { [Op.lt]: limit } }, attributes: ['sha256'], raw: true })) as unknown as PhotoRow[] // prettier-ignore
    await this.photos.destroy({ where: { sha256: old.map((p) => p.sha256).filter((sha) => !used.has(sha)) } })
  }

  async close(): Promise<void> {
    await this.sequelize.close()
  }
}

/** Photos that any of the pieces needs; null where one can't be read, so that nothing of it is lost. */
function usedPhotos(rows: readonly PieceRow[]): Set<string> | null {
  try {
    return new Set(rows.flatMap((row) => photosOf(readDocument(JSON.parse(row.document)))))
  } catch {
    return null
  }
}

function columnsOf(document: PieceDocument) {
  return {
    name: document.name,
    document: JSON.stringify(document),
    summary: JSON.stringify(summarize(document)),
    photoSha256: document.photo?.sha256 ?? null,
  }
}

function definePieces(sequelize: Sequelize): ModelStatic<Model<PieceRow, PieceRow>> {
  return sequelize.define(
    'piece',
    {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: DataTypes.STRING,
      setName: DataTypes.STRING,
      place: DataTypes.INTEGER,
      revision: DataTypes.INTEGER,
      document: DataTypes.TEXT,
      summary: DataTypes.TEXT,
      photoSha256: DataTypes.STRING,
      updatedAt: DataTypes.STRING,
      deletedAt: DataTypes.STRING,
    },
    { tableName: 'pieces', timestamps: false },
  )
}

function definePhotos(sequelize: Sequelize): ModelStatic<Model<PhotoRow, PhotoRow>> {
  return sequelize.define(
    'photo',
    {
      sha256: { type: DataTypes.STRING, primaryKey: true },
      mediaType: DataTypes.STRING,
      width: DataTypes.INTEGER,
      height: DataTypes.INTEGER,
      focalLength35mm: DataTypes.FLOAT,
      bytes: DataTypes.BLOB,
      thumbnail: DataTypes.BLOB,
      addedAt: DataTypes.STRING,
    },
    { tableName: 'photos', timestamps: false },
  )
}
