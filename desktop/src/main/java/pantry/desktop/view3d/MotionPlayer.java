package pantry.desktop.view3d;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableMap;
import pantry.base.math.Matrix4;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Motion;

/** Plays a model's motions: which one, where in it, how fast, and whether again from the start. Without a window. */
public final class MotionPlayer {
    private final ObjectProperty<Optional<Posing>> posing = new SimpleObjectProperty<>(Optional.empty());
    private final IntegerProperty motion = new SimpleIntegerProperty();
    private final PlayClock clock = new PlayClock(this::seconds);

    /** Where in the motions somebody looks; kept while the same motions are shown otherwise. */
    private List<String> names = List.of();

    private List<String> shapes = List.of();
    private final ObservableMap<String, Double> held = FXCollections.observableHashMap();

    public MotionPlayer() {
        motion.addListener(change -> clock.timeProperty().set(0));
    }

    /** Takes what is shown; it is still where it has no skeleton. */
    public void show(Model model) {
        Optional<Posing> now = Posing.of(model);
        List<String> others = now.map(each ->
                        each.skeleton().motions().stream().map(Motion::name).toList())
                .orElse(List.of());
        List<String> otherShapes = now.map(Posing::shapes).orElse(List.of());
        boolean same = others.equals(names) && otherShapes.equals(shapes);
        names = others;
        shapes = otherShapes;
        // First: whoever hears of another time asks for the pose.
        posing.set(now);
        if (!same) {
            clock.playingProperty().set(false);
            motion.set(0);
            clock.timeProperty().set(0);
            held.clear();
        }
    }

    /** What is posed; empty where nothing moves. */
    public ObjectProperty<Optional<Posing>> posingProperty() {
        return posing;
    }

    /** The names of the motions, in their order. */
    public List<String> names() {
        return names;
    }

    /** The names of the shapes, in their order. */
    public List<String> shapes() {
        return shapes;
    }

    /** Weights of shapes that somebody holds, whatever the motion says of them. */
    public ObservableMap<String, Double> held() {
        return held;
    }

    /** The number of the motion that is played. */
    public IntegerProperty motionProperty() {
        return motion;
    }

    /** The time from the motion's first key. */
    public PlayClock clock() {
        return clock;
    }

    /** The motion that is played; empty where there is none. */
    Optional<Motion> played() {
        return posing.get()
                .map(each -> each.skeleton().motions())
                .filter(motions -> motion.get() >= 0 && motion.get() < motions.size())
                .map(motions -> motions.get(motion.get()));
    }

    /** How long the motion is, seconds; 0 where there is none. */
    public double seconds() {
        return played().map(Motion::seconds).orElse(0.0);
    }

    /** Where something stands at a moment: the model, and its joints within it. */
    public record Pose(Model model, Matrix4[] joints) {}

    /** The pose at the time of now; empty where nothing moves. To be called on any thread once it was asked for. */
    public Optional<Supplier<Pose>> pose() {
        Optional<Motion> motionNow = played();
        Map<String, Double> weights = Map.copyOf(held);
        if (motionNow.isEmpty()) {
            return posing.get()
                    .filter(each -> !weights.isEmpty())
                    .map(each ->
                            () -> new Pose(each.atRest(weights), each.skeleton().rest()));
        }
        Posing posed = posing.get().orElseThrow();
        double at = motionNow.get().times()[0] + clock.timeProperty().get();
        return Optional.of(() -> new Pose(
                posed.at(motionNow.get(), at, weights), posed.skeleton().posed(motionNow.get(), at)));
    }
}
