package pantry.desktop.view3d;

import java.util.Locale;
import javafx.animation.AnimationTimer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WhileShown;

/** What plays a clock, stops it, and goes through its time. */
public final class PlayRow extends HBox {
    private final PlayClock clock;
    private final Slider slider = new Slider();
    private final Label told = Controls.whole("", Styles.FIGURE, "small");
    private long before;

    /**
     * @param id of the button; the slider's ends in {@code -time}
     * @param hint of the button
     */
    public PlayRow(PlayClock clock, String id, String hint) {
        super(6);
        this.clock = clock;
        Button play = Controls.button("", "remixmz-play-line", hint, clock::toggle);
        play.setId(id);
        play.getStyleClass().addAll("small", Styles.QUIET);
        clock.playingProperty().addListener((property, was, now) -> {
            play.setGraphic(new FontIcon(now ? "remixmz-pause-line" : "remixmz-play-line"));
            play.setAccessibleText(now ? "Stop" : "Play");
        });
        slider.setId(id + "-time");
        slider.setAccessibleText("Time, seconds");
        slider.valueProperty().bindBidirectional(clock.timeProperty());
        HBox.setHgrow(slider, Priority.ALWAYS);
        clock.timeProperty().addListener(change -> tell());
        getChildren().setAll(play, slider, told);
        setAlignment(Pos.CENTER_LEFT);
        AnimationTimer timer = new AnimationTimer() {
            @Override
            public void handle(long now) {
                if (before != 0) {
                    clock.advance((now - before) / 1e9);
                }
                before = now;
            }
        };
        // Only while something is played: a timer that runs keeps the whole window drawing.
        clock.playingProperty().addListener((property, was, now) -> {
            before = 0;
            if (now) {
                timer.start();
            } else {
                timer.stop();
            }
        });
        WhileShown.switched(this, () -> {}, () -> clock.playingProperty().set(false));
        fit();
    }

    /** Follows another length of what is played. */
    public void fit() {
        slider.setMax(Math.max(clock.length(), Double.MIN_NORMAL));
        tell();
    }

    private void tell() {
        told.setText(String.format(
                Locale.ROOT, "%.2f of %.2f s", clock.timeProperty().get(), clock.length()));
    }
}
