import { Navigate, Route, Routes } from 'react-router';
import { Notices } from './parts/notices.tsx';
import { ShortcutSheet } from './parts/shortcut-sheet.tsx';
import { CutRoom } from './rooms/cut/cut-room.tsx';
import { DeliverRoom } from './rooms/deliver/deliver-room.tsx';
import { PicturesRoom } from './rooms/pictures/pictures-room.tsx';
import { ProjectFrame } from './rooms/project-frame.tsx';
import { Shelf } from './rooms/shelf/shelf.tsx';
import { StageRoom } from './rooms/stage/stage-room.tsx';

export function App() {
  return (
    <>
      <Routes>
        <Route path="/" element={<Shelf />} />
        <Route path="/project/:id" element={<ProjectFrame />}>
          <Route index element={<Navigate to="stage" replace />} />
          <Route path="pictures" element={<PicturesRoom />} />
          <Route path="cut/:pictureId?/:pieceId?" element={<CutRoom />} />
          <Route path="stage" element={<StageRoom />} />
          <Route path="deliver" element={<DeliverRoom />} />
        </Route>
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
      <Notices />
      <ShortcutSheet />
    </>
  );
}
