import Eye from 'lucide-react-native/icons/scan-eye';
import Download from 'lucide-react-native/icons/download';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { useBoard } from '../../board';
import { closePreview, handOver, useDeliverChoice, useDeliveries, usePreview, type SeenFile } from '../../deliver';
import { Button, Faint, Sheet, Switch } from '../../look';
import { previewFrom } from './delivering';

/** Makes the file of this page and shows it. */
export function PreviewButton() {
  const board = useBoard();
  const isUnderway = useDeliveries(({ underway }) => underway !== undefined);
  const files = usePreview((state) => state.files);
  return (
    <>
      <Button label="See it first" icon={Eye} disabled={isUnderway} onPress={() => void previewFrom(board)} />
      {files && <PreviewSheet files={files} />}
    </>
  );
}

/** The very files that a page becomes, one beneath the other. */
function PreviewSheet({ files }: { readonly files: readonly SeenFile[] }) {
  const as = useDeliverChoice(({ choice }) => choice.as);
  const [isPxForPx, setPxForPx] = useState(false);
  const bytes = files.reduce((sum, { file }) => sum + file.size, 0);
  // What a browser has no picture of was made as another file: it is not for keeping.
  const [only] = as === 'tiff' || as === 'ora' || files.length > 1 ? [] : files;
  return (
    <Sheet
      title={files.length === 1 ? files[0].name : `${files.length} slices`}
      onClose={closePreview}
      footer={
        only && (
          <Button
            label="Deliver this file"
            icon={Download}
            tone="seal"
            onPress={() => {
              handOver(only);
              closePreview();
            }}
          />
        )
      }
    >
      <Faint>
        {as === 'tiff' || as === 'ora'
          ? 'A browser shows no such file: this is a PNG of the same px.'
          : `${sizeInWords(bytes)} ${files.length === 1 ? '' : 'in all'}`.trim()}
      </Faint>
      {as !== 'pdf' && as !== 'svg' && <Switch label="Px for px" on={isPxForPx} onChange={setPxForPx} />}
      {files.map((file) => (
        <Shown key={file.name} made={file} isPxForPx={isPxForPx} />
      ))}
    </Sheet>
  );
}

const sizeInWords = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

/** A file as the browser shows it; a PDF in a tab of its own. */
function Shown({ made: { name, file, address }, isPxForPx }: { readonly made: SeenFile; readonly isPxForPx: boolean }) {
  if (file.type === 'application/pdf')
    return <Button label="Open it in a tab of its own" onPress={() => window.open(address, '_blank', 'noopener')} />;
  const ratio = window.devicePixelRatio || 1;
  return (
    <ScrollView horizontal>
      <View style={{ background: CHECKED } as object}>
        <img
          alt={name}
          src={address}
          style={{
            display: 'block',
            ...(isPxForPx ? { zoom: 1 / ratio } : { maxWidth: 480, width: 'min(480px, calc(100vw - 40px))' }),
          }}
        />
      </View>
    </ScrollView>
  );
}

/** Squares that show through where a picture is transparent. */
const CHECKED = 'repeating-conic-gradient(#d8d8d8 0% 25%, #ffffff 0% 50%) 0 0 / 16px 16px';
