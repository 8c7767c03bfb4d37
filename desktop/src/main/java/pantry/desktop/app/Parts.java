package pantry.desktop.app;

import java.util.List;
import pantry.desktop.frame.FrameView;
import pantry.desktop.frame.Navigator;
import pantry.desktop.prep.PrepWorkplace;
import pantry.desktop.reach.ReachWorkplace;
import pantry.desktop.receive.ReceiveWorkplace;
import pantry.desktop.scenes.ScenesWorkplace;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.Session;
import pantry.desktop.shelves.ShelvesWorkplace;

/** What a window is made of. A new workplace is made and registered here, and nowhere else. */
record Parts(
        Session session,
        AssetSearch search,
        Navigator navigator,
        ReceiveWorkplace receive,
        ShelvesWorkplace shelves,
        PrepWorkplace prep,
        ScenesWorkplace scenes,
        ReachWorkplace reach,
        FrameView frame) {
    /** To be called on the interface's thread. */
    static Parts of(Session session) {
        FxThread.onFailure(session::failed);
        AssetSearch search = new AssetSearch(session);
        AssetPictures pictures = new AssetPictures();
        Navigator navigator = new Navigator();
        ReceiveWorkplace receive = new ReceiveWorkplace(session, navigator);
        ShelvesWorkplace shelves = new ShelvesWorkplace(session, search, pictures, navigator);
        PrepWorkplace prep = new PrepWorkplace(session, receive.model(), navigator);
        ScenesWorkplace scenes = new ScenesWorkplace(session, search, pictures, navigator);
        ReachWorkplace reach = new ReachWorkplace(session, navigator);
        navigator.register(List.of(receive, shelves, prep, scenes, reach), shelves);
        FrameView frame = new FrameView(session, navigator, search, pictures);
        return new Parts(session, search, navigator, receive, shelves, prep, scenes, reach, frame);
    }
}
