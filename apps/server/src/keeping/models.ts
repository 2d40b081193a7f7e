import { FONT_TYPE } from '@true-nib/core/lettering';
import { MODEL_TYPE } from '@true-nib/core/set';
import { READINGS, WASH_TYPE, type Reading } from '@true-nib/core/page';
import {
  DataTypes,
  Op,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type NonAttribute,
  type Sequelize,
  type Transaction,
} from 'sequelize';
import type { ModelHooks } from 'sequelize/types/hooks';

type Row<M extends Model> = Model<InferAttributes<M>, InferCreationAttributes<M>>;

/** Several pages under one name. */
export interface FolioRow extends Row<FolioRow> {
  id: string;
  name: string;
  /** Which way its pages follow each other, and whether the first lies alone. */
  reads: CreationOptional<Reading>;
  firstAlone: CreationOptional<boolean>;
  /** ms since 1970, as all times here. */
  createdAt: number;
  deletedAt: CreationOptional<number | null>;
}

/** A page without what lies on it: that is in its entities and in its journal. */
export interface PageRow extends Row<PageRow> {
  id: string;
  folioId: string;
  name: string;
  /** Its order in the folio, a fractional index. */
  position: string;
  width: number;
  height: number;
  ppi: number;
  /** How many changes its journal holds. */
  revision: CreationOptional<number>;
  createdAt: number;
  changedAt: number;
  deletedAt: CreationOptional<number | null>;
  folio?: NonAttribute<FolioRow>;
  thumbnail?: NonAttribute<ThumbnailRow | null>;
}

/** The small picture of a page as it stood at a revision. */
export interface ThumbnailRow extends Row<ThumbnailRow> {
  pageId: string;
  revision: number;
  type: string;
  bytes: Buffer;
}

/** All entities of a page in one piece, as they stood at a revision. */
export interface SnapshotRow extends Row<SnapshotRow> {
  pageId: string;
  revision: number;
  ids: Buffer;
  bytes: Buffer;
}

/** A picture, or the pixels of a wash tile. */
export interface BlobRow extends Row<BlobRow> {
  sha256: string;
  type: string;
  width: number;
  height: number;
  /** When it was sent last. */
  keptAt: number;
  bytes: Buffer;
}

/** The one nib rack, as JSON. */
export interface RackRow extends Row<RackRow> {
  id: number;
  revision: number;
  nibs: string;
}

/** A template of this desk's own, as JSON. */
export interface TemplateRow extends Row<TemplateRow> {
  id: string;
  body: string;
}

/** A set of the library: its card, and all of it as JSON. */
export interface SetRow extends Row<SetRow> {
  id: string;
  name: string;
  /** Path data of lines, 120 by 84. */
  picture: string;
  blocks: number;
  keptAt: number;
  body: string;
}

export interface Models {
  /** Those that are not deleted; `unscoped` has them all, as with pages. */
  readonly folios: ModelStatic<FolioRow>;
  readonly pages: ModelStatic<PageRow>;
  readonly thumbnails: ModelStatic<ThumbnailRow>;
  readonly snapshots: ModelStatic<SnapshotRow>;
  readonly blobs: ModelStatic<BlobRow>;
  readonly rack: ModelStatic<RackRow>;
  readonly templates: ModelStatic<TemplateRow>;
  readonly sets: ModelStatic<SetRow>;
}

/** Characters that the name of a folio or a page may have. */
export const NAME_LENGTH = 120;

const PICTURE_TYPES: string[] = ['image/png', 'image/jpeg', 'image/webp'];
const BLOB_TYPES = [...PICTURE_TYPES, 'image/svg+xml', WASH_TYPE, FONT_TYPE, MODEL_TYPE];

const { TEXT, INTEGER, REAL, BLOB } = DataTypes;

// What a column is. Each is made anew for each model, which writes its names into it.
const id = () => ({ type: TEXT, primaryKey: true, validate: { notEmpty: true } });
const required = () => ({ type: TEXT, allowNull: false, validate: { notEmpty: true } });
const name = () => ({ type: TEXT, allowNull: false, validate: { len: [1, NAME_LENGTH] as [number, number] } });
const oneOf = (values: string[]) => ({ type: TEXT, allowNull: false, validate: { isIn: [values] } });
const text = () => ({ type: TEXT, allowNull: false });
const json = () => ({ type: TEXT, allowNull: false, validate: { isJson } });
const bytes = () => ({ type: BLOB, allowNull: false });
const count = (min = 0) => ({ type: INTEGER, allowNull: false, validate: { isInt: true, min } });
const orNull = () => ({ type: INTEGER, allowNull: true });
const isKept = { where: { deletedAt: { [Op.is]: null } } } as const;

/** A write between the reading and the writing of a transaction would make that one fail: all writes have one, and wait in turn. */
function requireTransaction({ transaction }: { readonly transaction?: Transaction | null }): void {
  if (!transaction) throw new TypeError('A write needs a transaction: see Store.atomically.');
}
const hooks: Partial<ModelHooks> = {
  beforeSave: (_row, options) => requireTransaction(options),
  beforeDestroy: (_row, options) => requireTransaction(options),
  beforeUpsert: (_values, options) => requireTransaction(options),
  beforeBulkCreate: (_rows, options) => requireTransaction(options),
  beforeBulkUpdate: (options) => requireTransaction(options),
  beforeBulkDestroy: (options) => requireTransaction(options),
};

/** Tells a database of all that it keeps, but for journals and entities, whose rows come by the thousand (see `rows`). */
export function modelsOf(database: Sequelize): Models {
  const options = (tableName: string) => ({ tableName, timestamps: false, hooks });
  const folios = database.define<FolioRow>(
    'folio',
    {
      ...{ id: id(), name: name(), createdAt: count(), deletedAt: orNull() },
      reads: { ...oneOf([...READINGS]), defaultValue: READINGS[0] },
      firstAlone: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
    },
    { ...options('folios'), defaultScope: isKept },
  );
  const pages = database.define<PageRow>(
    'page',
    {
      ...{ id: id(), folioId: required(), name: name(), position: required(), width: count(1), height: count(1) },
      ppi: { type: REAL, allowNull: false, validate: { min: 1 } },
      revision: { ...count(), defaultValue: 0 },
      ...{ createdAt: count(), changedAt: count(), deletedAt: orNull() },
    },
    { ...options('pages'), defaultScope: isKept },
  );
  const pageId = () => ({ ...id(), references: { model: pages } });
  const thumbnails = database.define<ThumbnailRow>(
    'thumbnail',
    { pageId: pageId(), revision: count(), type: oneOf(PICTURE_TYPES), bytes: bytes() },
    options('thumbnails'),
  );
  const snapshots = database.define<SnapshotRow>(
    'snapshot',
    { pageId: pageId(), revision: count(), ids: bytes(), bytes: bytes() },
    options('snapshots'),
  );
  const blobs = database.define<BlobRow>(
    'blob',
    {
      sha256: { ...id(), validate: { is: /^[0-9a-f]{64}$/ } },
      ...{ type: oneOf(BLOB_TYPES), width: count(1), height: count(1), keptAt: count(), bytes: bytes() },
    },
    options('blobs'),
  );
  const rack = database.define<RackRow>(
    'rack',
    { id: { type: INTEGER, primaryKey: true, validate: { equals: '1' } }, revision: count(), nibs: json() },
    options('rack'),
  );
  const templates = database.define<TemplateRow>('template', { id: id(), body: json() }, options('templates'));
  const sets = database.define<SetRow>(
    'set',
    { id: id(), ...{ name: text(), picture: text(), blocks: count(), keptAt: count(), body: json() } },
    options('sets'),
  );

  folios.hasMany(pages, { foreignKey: 'folioId', as: 'pages' });
  pages.belongsTo(folios, { foreignKey: 'folioId', as: 'folio' });
  pages.hasOne(thumbnails, { foreignKey: 'pageId', as: 'thumbnail' });
  pages.hasOne(snapshots, { foreignKey: 'pageId', as: 'snapshot' });

  return { folios, pages, thumbnails, snapshots, blobs, rack, templates, sets };
}

function isJson(value: unknown): void {
  JSON.parse(String(value));
}
