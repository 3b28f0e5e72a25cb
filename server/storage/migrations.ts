import { DataTypes, type QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'

/** Steps of the tables, oldest first. A step that was released never changes; a new one is added behind it. */
export const migrations: RunnableMigration<QueryInterface>[] = [
  {
    name: '001-photos-and-pieces',
    async up({ context: tables }) {
      await tables.createTable('photos', {
        sha256: { type: DataTypes.STRING(64), primaryKey: true },
        mediaType: { type: DataTypes.STRING, allowNull: false },
        width: { type: DataTypes.INTEGER, allowNull: false },
        height: { type: DataTypes.INTEGER, allowNull: false },
        focalLength35mm: DataTypes.FLOAT,
        bytes: { type: DataTypes.BLOB, allowNull: false },
        thumbnail: { type: DataTypes.BLOB, allowNull: false },
        addedAt: { type: DataTypes.STRING, allowNull: false },
      })
      await tables.createTable('pieces', {
        id: { type: DataTypes.STRING(36), primaryKey: true },
        name: { type: DataTypes.STRING, allowNull: false },
        setName: DataTypes.STRING,
        revision: { type: DataTypes.INTEGER, allowNull: false },
        document: { type: DataTypes.TEXT, allowNull: false },
        summary: { type: DataTypes.TEXT, allowNull: false },
        photoSha256: { type: DataTypes.STRING(64), references: { model: 'photos', key: 'sha256' } },
        updatedAt: { type: DataTypes.STRING, allowNull: false },
        deletedAt: DataTypes.STRING,
      })
      await tables.addIndex('pieces', ['deletedAt', 'updatedAt'])
    },
  },
  {
    name: '002-places-in-a-set',
    async up({ context: tables }) {
      await tables.addColumn('pieces', 'place', { type: DataTypes.INTEGER })
    },
  },
]
