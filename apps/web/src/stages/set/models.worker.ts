import { PageError } from '@true-nib/core/gate';
import { exportGltf, importGltf, importObj } from '@true-nib/core/models';
import {
  BLOCK_LIMITS,
  boxOfModel,
  checkedModel,
  packModel,
  simplifiedModel,
  standingModel,
  type StandingBlock,
} from '@true-nib/core/set';
import { expose, transfer } from 'comlink';

/** A model that was read from a file: its bytes, how large it is in units of the file, and how many triangles it had there. */
export interface ReadModel {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly triangles: number;
  readonly had: number;
  readonly size: readonly [number, number, number];
}

const service = {
  /** The model of an OBJ, glTF or GLB file, made simpler where it has too many triangles; or why there is none. */
  async read(file: Blob, isObj: boolean): Promise<{ readonly model?: ReadModel; readonly trouble?: string }> {
    try {
      const read = isObj ? importObj(await file.text()) : await importGltf(new Uint8Array(await file.arrayBuffer()));
      const had = read.triangles.length / 3;
      const standing = standingModel(read);
      const model = checkedModel(
        had > BLOCK_LIMITS.triangles ? simplifiedModel(standing, BLOCK_LIMITS.triangles) : standing,
      );
      const box = boxOfModel(model);
      const bytes = packModel(model) as Uint8Array<ArrayBuffer>;
      const size = [box[3] - box[0], box[4] - box[1], box[5] - box[2]] as const;
      const found: ReadModel = { bytes, triangles: model.triangles.length / 3, had, size };
      return transfer({ model: found }, [bytes.buffer]);
    } catch (error) {
      // An error of the core's own kind would not come over as one.
      if (error instanceof PageError) return { trouble: error.message };
      throw error;
    }
  },

  /** Blocks as a GLB. */
  async write(
    name: string,
    blocks: readonly (StandingBlock & { readonly name: string })[],
  ): Promise<Uint8Array<ArrayBuffer>> {
    const bytes = (await exportGltf(name, blocks)) as Uint8Array<ArrayBuffer>;
    return transfer(bytes, [bytes.buffer]);
  },
};

export type ModelService = typeof service;

expose(service);
