package pantry.desktop.view3d;

import java.io.ByteArrayInputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.HBox;
import pantry.base.Png;
import pantry.base.math.Box3;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.LatestWork;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Motion;
import pantry.render.Camera;
import pantry.render.RenderCache;
import pantry.render.RenderOptions;
import pantry.render.RenderScene;
import pantry.render.Thumbnails;

/** A motion as small pictures over its time, all seen from one place; each leads to its moment. */
final class MotionStrip extends HBox {
    private static final int PICTURES = 6;
    private static final int SIZE = 44;

    private final PlayClock clock;
    private final RenderCache cache;
    private final LatestWork work;
    private Optional<Motion> shown = Optional.empty();

    MotionStrip(PlayClock clock, RenderCache cache, LatestWork work) {
        super(2);
        this.clock = clock;
        this.cache = cache;
        this.work = work;
        setId("motion-strip");
        // There is room for the pictures before they are drawn.
        setPrefHeight(SIZE + 4.0);
        setMinHeight(USE_PREF_SIZE);
        getStyleClass().add("motion-strip");
        Controls.showOnly(this, false);
    }

    /** Shows a motion; nothing where there is none. Pictures that are there already stay. */
    void show(Optional<Posing> posing, Optional<Motion> motion) {
        if (motion.equals(shown)) {
            return;
        }
        shown = motion;
        work.drop();
        getChildren().clear();
        Controls.showOnly(this, motion.isPresent());
        if (posing.isPresent() && motion.isPresent()) {
            work.answer(
                    "drawing a motion",
                    progress -> pictures(posing.get(), motion.get()),
                    pictures -> fill(pictures, motion.get().seconds()));
        }
    }

    private List<byte[]> pictures(Posing posing, Motion motion) {
        List<Model> poses = new ArrayList<>();
        Box3 box = Box3.EMPTY;
        for (int i = 0; i < PICTURES; i++) {
            Model pose = posing.at(motion, motion.times()[0] + motion.seconds() * i / (PICTURES - 1));
            poses.add(pose);
            box = box.union(pose.bounds());
        }
        Camera camera = Camera.START.framing(box, 1);
        return poses.stream()
                .map(pose -> Png.of(Thumbnails.picture(
                        RenderScene.of(pose, cache), camera, 2 * SIZE, 2 * SIZE, RenderOptions.PLAIN)))
                .toList();
    }

    private void fill(List<byte[]> pictures, double seconds) {
        for (int i = 0; i < pictures.size(); i++) {
            double time = seconds * i / (pictures.size() - 1);
            ImageView view = new ImageView(new Image(new ByteArrayInputStream(pictures.get(i))));
            view.setFitWidth(SIZE);
            view.setFitHeight(SIZE);
            String when = String.format(Locale.ROOT, "At %.2f s", time);
            Button button = Controls.button("", "", when, () -> {
                clock.playingProperty().set(false);
                clock.timeProperty().set(time);
            });
            button.setAccessibleText(when);
            // By keys, the slider above goes to every moment.
            button.setFocusTraversable(false);
            button.setGraphic(view);
            button.getStyleClass().addAll(Styles.QUIET, "picture-button");
            getChildren().add(button);
        }
    }
}
