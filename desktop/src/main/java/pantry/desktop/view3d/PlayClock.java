package pantry.desktop.view3d;

import java.util.function.DoubleSupplier;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;

/** The time of something that is played: it goes by while it is played, and begins again at its end where that is wanted. */
public final class PlayClock {
    private final DoubleProperty time = new SimpleDoubleProperty();
    private final DoubleProperty speed = new SimpleDoubleProperty(1);
    private final BooleanProperty playing = new SimpleBooleanProperty();
    private final BooleanProperty looping = new SimpleBooleanProperty(true);
    private final DoubleSupplier length;

    /** @param length of what is played, seconds; 0 where there is nothing to play */
    public PlayClock(DoubleSupplier length) {
        this.length = length;
    }

    /** Seconds from the beginning. */
    public DoubleProperty timeProperty() {
        return time;
    }

    /** Seconds of what is played for each second that goes by. */
    public DoubleProperty speedProperty() {
        return speed;
    }

    public BooleanProperty playingProperty() {
        return playing;
    }

    /** Whether it begins again at its end. */
    public BooleanProperty loopingProperty() {
        return looping;
    }

    /** How long what is played takes, seconds. */
    public double length() {
        return length.getAsDouble();
    }

    /** Plays or stops; from the start where it has come to the end. */
    public void toggle() {
        if (!playing.get() && time.get() >= length()) {
            time.set(0);
        }
        playing.set(!playing.get() && length() > 0);
    }

    /** So much time has gone by, seconds. */
    public void advance(double seconds) {
        double end = length();
        if (!playing.get() || end <= 0) {
            return;
        }
        double now = time.get() + seconds * speed.get();
        if (now >= end && !looping.get()) {
            time.set(end);
            playing.set(false);
        } else {
            time.set(now % end);
        }
    }
}
