package pantry.desktop.frame;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.StackPane;
import org.jspecify.annotations.Nullable;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.OwnKeys;
import pantry.desktop.controls.StrayClicks;
import pantry.desktop.controls.Theme;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.Session;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.Workplace;

/** The whole window: counter above, rail at the left, a workplace, scale and ledger below. */
public final class FrameView extends StackPane {
    /** With Ctrl, these belong to the text that is being written. */
    private static final Set<KeyCode> OF_TEXT =
            EnumSet.of(KeyCode.A, KeyCode.C, KeyCode.V, KeyCode.X, KeyCode.Y, KeyCode.Z);

    /** Sizes of the text, pixels. */
    private static final double SMALLEST_TEXT = 10;

    private static final double USUAL_TEXT = 13;
    private static final double LARGEST_TEXT = 26;

    private final Session session;
    private final Navigator navigator;
    private final CommandTable commands;
    private final Rail rail;
    private final Foot foot;
    private final BorderPane frame = new BorderPane();

    /** Scrolls where the window has no room for what a workplace needs at least, as with large text. */
    private final ScrollPane middle = new ScrollPane();

    private final SearchBox search;
    private final Drawer drawer;
    private final PanelWalk panels = new PanelWalk();
    private double textSize = USUAL_TEXT;

    /** @param navigator with its workplaces registered */
    public FrameView(Session session, Navigator navigator, AssetSearch found, AssetPictures pictures) {
        this.session = session;
        this.navigator = navigator;
        Folders folders = new Folders(session, this);
        drawer = new Drawer(session);
        foot = new Foot(session, drawer::toggleLedger);
        commands = new CommandTable(navigator, everywhere(folders));
        search = new SearchBox(found, commands, navigator, pictures, this::enterWorkplace);
        rail = new Rail(navigator);
        frame.setTop(new Counter(session, folders, search.box()));
        ScrollPane scrolledRail = Controls.scrolling(rail);
        scrolledRail.setFitToHeight(true);
        frame.setLeft(scrolledRail);
        middle.setId("workplace");
        middle.setFitToWidth(true);
        middle.setFitToHeight(true);
        middle.setFocusTraversable(false);
        middle.setMinSize(0, 0);
        frame.setCenter(middle);
        frame.setBottom(foot);
        getChildren().setAll(frame, search.hits(), drawer);
        navigator.workplaces().forEach(workplace -> workplace.overlay().ifPresent(getChildren()::add));
        StrayClicks.ignoreBelow(this);
        addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        addEventHandler(KeyEvent.KEY_PRESSED, FrameView::keepArrows);
        addEventHandler(KeyEvent.KEY_TYPED, this::typed);
        sceneProperty().addListener((property, before, now) -> {
            if (now != null) {
                now.focusOwnerProperty().addListener((owner, lost, got) -> {
                    keepFocusNear(lost, got);
                    if (got != null && got.isFocusVisible()) {
                        Controls.reveal(got);
                    }
                });
            }
        });
        navigator.currentProperty().addListener((property, before, now) -> show(now));
        show(navigator.currentProperty().get());
    }

    /**
     * What can no longer be used after an action loses the keys, and the toolkit gives them to whatever comes next in the
     * window, such as a menu at its top: they stay near instead.
     */
    private void keepFocusNear(@Nullable Node lost, @Nullable Node got) {
        boolean gone = lost != null && (lost.getScene() != getScene() || lost.isDisabled());
        if (!gone || got != null && Controls.isWithin(got, middle.getContent())) {
            return;
        }
        Node near = lost.getScene() == getScene() ? lost.getParent() : middle.getContent();
        while (near != null && near.isDisabled()) {
            near = near.getParent();
        }
        boolean within = near != null && near != middle.getContent() && Controls.isWithin(near, middle.getContent());
        Runnable kept = within ? near::requestFocus : this::enterWorkplace;
        FxThread.later(() -> {
            Node now = getScene() == null ? null : getScene().getFocusOwner();
            if (now == got || got == null && now != null && !Controls.isWithin(now, middle.getContent())) {
                kept.run();
            }
        });
    }

    /** Gives the keys to the workplace that is shown; at the start the toolkit gives them to the first menu. */
    public void enterWorkplace() {
        navigator.currentProperty().get().enter();
    }

    private void walk(int step) {
        panels.go(middle.getContent(), getScene().getFocusOwner(), step);
    }

    /** Looks for words, as if they were typed into the search field; blank ones leave it. */
    public void search(String words) {
        search.field().setText(words);
        if (words.isBlank()) {
            enterWorkplace();
        } else {
            search.field().requestFocus();
        }
    }

    private void show(Workplace workplace) {
        session.weightAfterProperty().set(Optional.empty());
        // The scale weighs what is on the screen.
        session.weightProperty().bind(workplace.weight());
        middle.setContent(workplace.node());
        rail.show(workplace);
        workplace.shown();
    }

    private List<Command> everywhere(Folders folders) {
        List<Command> all = new ArrayList<>();
        int number = 1;
        for (Workplace workplace : navigator.workplaces()) {
            all.add(Command.of("Go to " + workplace.name(), "Shortcut+" + number++, () -> {
                navigator.go(workplace);
                enterWorkplace();
            }));
        }
        all.add(Command.of("Take the keys to the next panel", "F6", () -> walk(1)));
        if (!MenuKey.BY_TOOLKIT) {
            all.add(Command.of(
                    "Open the menu of what is chosen",
                    "Shift+F10",
                    () -> MenuKey.ask(getScene().getFocusOwner())));
        }
        all.add(Command.of("Take the keys to the panel before", "Shift+F6", () -> walk(-1)));
        all.add(Command.of("Open a library…", folders::openLibrary));
        all.add(Command.of("New library in a folder…", folders::newLibrary));
        all.add(Command.of("Open a project folder…", folders::openProject));
        all.add(Command.of("Undo", "Shortcut+Z", session.history()::undo));
        all.add(Command.of("Redo", "Shortcut+Y Shortcut+Shift+Z", session.history()::redo));
        all.add(Command.of("Open or close the ledger", "Shortcut+L", drawer::toggleLedger));
        all.add(Command.of("Larger text", "Shortcut+EQUALS Shortcut+PLUS Shortcut+ADD", () -> enlarge(1)));
        all.add(Command.of("Smaller text", "Shortcut+MINUS Shortcut+SUBTRACT", () -> enlarge(-1)));
        all.add(Command.of(
                "Night or day", "Shortcut+Shift+N", () -> Theme.setNight(getScene(), !Theme.isNight(getScene()))));
        return all;
    }

    private void enlarge(double by) {
        setTextSize(textSize + by);
    }

    /** The size of the text, pixels. */
    public double textSize() {
        return textSize;
    }

    /** Gives the text a size, pixels; beyond the largest and the smallest, that one. */
    public void setTextSize(double size) {
        textSize = Double.isNaN(size) ? USUAL_TEXT : Math.clamp(size, SMALLEST_TEXT, LARGEST_TEXT);
        setStyle("-fx-font-size: " + textSize + "px;");
    }

    private void key(KeyEvent event) {
        if (event.getCode() == KeyCode.ESCAPE && drawer.isVisible()) {
            drawer.close();
            event.consume();
            return;
        }
        if (OwnKeys.isPlainEnter(event) && event.getTarget() instanceof Button button) {
            button.fire();
            event.consume();
            return;
        }
        if (MenuKey.isPressed(event)) {
            MenuKey.ask(getScene().getFocusOwner());
            event.consume();
            return;
        }
        if (OwnKeys.claimed(event)) {
            return;
        }
        boolean typing = event.getTarget() instanceof TextInputControl;
        if (typing && (!event.isShortcutDown() || OF_TEXT.contains(event.getCode()))) {
            return;
        }
        commands.here().filter(command -> command.matches(event)).findFirst().ifPresent(command -> {
            command.action().run();
            event.consume();
        });
    }

    /** An arrow that nothing here has a use for stays here: the toolkit takes the keys to whatever stands in that direction. */
    private static void keepArrows(KeyEvent event) {
        if (event.getCode().isArrowKey()) {
            event.consume();
        }
    }

    private void typed(KeyEvent event) {
        if (event.getTarget() instanceof TextInputControl) {
            return;
        }
        if (event.getCharacter().equals("/")) {
            search.field().requestFocus();
            search.field().selectAll();
            event.consume();
        } else if (event.getCharacter().equals("?")) {
            drawer.showKeys(navigator.currentProperty().get(), commands.here().toList());
            event.consume();
        }
    }

    /** Goes on once no workplace would lose anything; one that would asks, and it goes on later or never. */
    public void leave(Runnable then) {
        Runnable next = then;
        for (Workplace workplace : navigator.workplaces().reversed()) {
            Runnable after = next;
            next = () -> workplace.leave(after);
        }
        next.run();
    }
}
