import { lazy } from 'react';
import { Navigate, Route, Routes } from 'react-router';
import { HelpSheet } from './help/help-sheet.tsx';
import { Notices } from './parts/notices.tsx';
import { PicturesRoom } from './rooms/pictures/pictures-room.tsx';
import { ProjectFrame } from './rooms/project-frame.tsx';
import { roomModules } from './rooms/room-modules.ts';
import { Shelf } from './rooms/shelf/shelf.tsx';

const CutRoom = lazy(async () => ({ default: (await roomModules.cut()).CutRoom }));
const StageRoom = lazy(async () => ({ default: (await roomModules.stage()).StageRoom }));
const DeliverRoom = lazy(async () => ({ default: (await roomModules.deliver()).DeliverRoom }));

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
      <HelpSheet />
    </>
  );
}
