package pantry.desktop.receive;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.VBox;
import pantry.catalogue.Alike;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.intake.ScaleEvidence;
import pantry.intake.Slip;

/** What on the shelves an arrival looks like: the same shapes first, what only resembles it folded into one line. */
final class LikenessPane extends VBox {
    /** From here on, a likeness is worth its room. */
    private static final double STRONG = 0.95;

    private final ReceiveModel model;
    private boolean unfolded;

    LikenessPane(ReceiveModel model) {
        super(6);
        this.model = model;
    }

    /** @return whether there is anything that it looks like */
    boolean show(Arrival arrival, Slip slip) {
        getChildren().clear();
        Optional<String> leftOut =
                arrival.knownProperty().get().filter(known -> slip.versionOf().isEmpty());
        boolean onShelf = arrival.alikeProperty().get().stream().anyMatch(Alike::isSameShape);
        leftOut.filter(known -> !onShelf).ifPresent(known -> {
            VBox line = new VBox(4, Controls.wrapped("It is " + known + ", and is left out."), shelveAsWell(arrival));
            line.getStyleClass().addAll("note-box", "info");
            getChildren().add(line);
        });
        List<Alike> weak = new ArrayList<>();
        for (Alike each : arrival.alikeProperty().get()) {
            boolean taken = isTaken(each, slip);
            if (taken || each.likeness() >= STRONG) {
                VBox line = line(each, arrival, taken);
                if (leftOut.isPresent() && each.isSameShape()) {
                    line.getChildren().add(1, Controls.wrapped("It is left out.", Styles.FAINT));
                    line.getChildren().add(shelveAsWell(arrival));
                }
                getChildren().add(line);
            } else {
                weak.add(each);
            }
        }
        if (!weak.isEmpty()) {
            fold(weak, arrival);
        }
        return !getChildren().isEmpty();
    }

    private static Button shelveAsWell(Arrival arrival) {
        Button button = Controls.button(
                "Shelve it as well", "", "Shelve this arrival as an asset of its own", () -> arrival.choose(true));
        button.setId("known-another");
        return button;
    }

    private static boolean isTaken(Alike each, Slip slip) {
        return slip.versionOf().filter(each.item().id()::equals).isPresent();
    }

    private void fold(List<Alike> weak, Arrival arrival) {
        ToggleButton fold = new ToggleButton(
                (weak.size() == 1 ? "1 resembles it, " : weak.size() + " resemble it, ") + range(weak));
        fold.setId("alike-weak");
        fold.getStyleClass().addAll("small", Styles.QUIET);
        fold.setSelected(unfolded);
        Controls.hint(fold, "Show what only resembles it, to take it as the next version of one of them");
        VBox lines = new VBox(6);
        weak.forEach(each -> lines.getChildren().add(line(each, arrival, false)));
        Controls.showOnly(lines, unfolded);
        fold.setOnAction(event -> {
            unfolded = fold.isSelected();
            Controls.showOnly(lines, unfolded);
        });
        getChildren().addAll(fold, lines);
    }

    private static String range(List<Alike> weak) {
        long most = percent(weak.getFirst());
        long least = percent(weak.getLast());
        return least == most ? most + "\u202f%" : least + " to " + most + "\u202f%";
    }

    private static long percent(Alike each) {
        return Math.round(each.likeness() * 100);
    }

    private VBox line(Alike each, Arrival arrival, boolean taken) {
        IndexedAsset item = each.item();
        Label what = Controls.wrapped(item.name() + " on " + item.shelf() + ": " + words(each, arrival.height()));
        Button take = Controls.button(
                taken ? "Shelve as an asset of its own" : "Take as its next version",
                "",
                taken ? "" : "Shelve this arrival as the next version of " + item.name(),
                () -> model.choices().takeAsVersionOf(arrival, taken ? Optional.empty() : Optional.of(item.id())));
        take.setId("version-of-" + item.id());
        VBox line = new VBox(4, what, take);
        line.getStyleClass().addAll("note-box", taken ? "good" : "info");
        return line;
    }

    private static String words(Alike each, double here) {
        double there = each.item().size()[1];
        return each.sameFile()
                ? "made of the same file" + (there > 0 ? ", " + Units.length(there) + " tall" : "")
                : words(each.likeness(), there, here);
    }

    /**
     * What a likeness means.
     *
     * @param there how tall the one on the shelf is, metres
     * @param here how tall the arrival would be; not a number where that is not known
     */
    static String words(double likeness, double there, double here) {
        if (likeness < Alike.SAME) {
            return "resembles it, " + Math.round(likeness * 100) + "\u202f%, " + Units.length(there) + " tall";
        }
        boolean known = there > 0 && here > 0;
        if (known && !ScaleEvidence.isAsTall(here, there)) {
            return "the same shape at another size, " + Units.length(there) + " tall there, " + Units.length(here)
                    + " here";
        }
        return "the same shape" + (known ? " and size" : "") + ", " + Units.length(there) + " tall";
    }
}
