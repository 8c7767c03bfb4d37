package pantry.desktop.scenes;

import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleIntegerProperty;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.render.RenderOptions;

/** A plane across the scene, on one side of which nothing is drawn. */
final class ViewCut {
    private static final Vec3[] AXES = {new Vec3(1, 0, 0), new Vec3(0, 1, 0), new Vec3(0, 0, 1)};

    private final BooleanProperty on = new SimpleBooleanProperty();
    private final IntegerProperty axis = new SimpleIntegerProperty();
    private final DoubleProperty at = new SimpleDoubleProperty();
    private final BooleanProperty otherSide = new SimpleBooleanProperty();
    private final ReadOnlyObjectWrapper<Box3> bounds = new ReadOnlyObjectWrapper<>(Box3.EMPTY);

    ViewCut() {
        axis.addListener(change -> middle());
    }

    BooleanProperty onProperty() {
        return on;
    }

    /** Which axis it stands across: 0 to 2. */
    IntegerProperty axisProperty() {
        return axis;
    }

    /** Where it stands on its axis, metres. */
    DoubleProperty atProperty() {
        return at;
    }

    /** Whether the side with the smaller coordinates is left out rather than the other. */
    BooleanProperty otherSideProperty() {
        return otherSide;
    }

    /** The box around what it cuts, metres. */
    ReadOnlyObjectProperty<Box3> boundsProperty() {
        return bounds.getReadOnlyProperty();
    }

    /** Takes note of what is drawn; a cut that is not on begins in its middle. */
    void over(Box3 box) {
        bounds.set(box);
        if (!on.get()) {
            middle();
        }
    }

    private void middle() {
        if (!bounds.get().isEmpty()) {
            at.set(bounds.get().centre().get(axis.get()));
        }
    }

    Vec3 direction() {
        return AXES[axis.get()];
    }

    /** The point of the plane that is nearest to the middle of what it cuts. */
    Vec3 centre() {
        Vec3 middle = bounds.get().isEmpty() ? Vec3.ZERO : bounds.get().centre();
        return middle.plus(direction().times(at.get() - middle.get(axis.get())));
    }

    /** The plane; empty where nothing is cut. */
    Optional<RenderOptions.Cut> plane() {
        return on.get()
                ? Optional.of(new RenderOptions.Cut(
                        direction().times(at.get()), direction().times(otherSide.get() ? -1 : 1)))
                : Optional.empty();
    }
}
