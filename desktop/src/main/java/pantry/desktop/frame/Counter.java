package pantry.desktop.frame;

import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.layout.HBox;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Job;
import pantry.desktop.session.Session;
import pantry.library.Library;

/** The strip at the top: open libraries, the search field, running jobs, the user. */
final class Counter extends HBox {
    private final Session session;
    private final Folders folders;
    private final HBox jobs = new HBox(8);

    Counter(Session session, Folders folders, Node find) {
        super(16);
        this.session = session;
        this.folders = folders;
        MenuButton libraries = new MenuButton();
        libraries.setId("libraries");
        libraries.setMinWidth(USE_PREF_SIZE);
        libraries
                .textProperty()
                .bind(Bindings.createStringBinding(
                        () -> switch (session.libraries().size()) {
                            case 0 -> "No library open";
                            case 1 -> session.libraries().getFirst().info().name();
                            default -> session.libraries().size() + " libraries";
                        },
                        session.libraries()));
        libraries.setOnShowing(event -> fillLibraries(libraries));
        fillLibraries(libraries);
        jobs.setAlignment(Pos.CENTER_RIGHT);
        jobs.setPrefWidth(300);
        jobs.setMinWidth(0);
        session.jobs().addListener((javafx.beans.InvalidationListener) change -> showJobs());
        Label who = Controls.whole(session.workbench().who(), Styles.FAINT);
        Label wordmark = Controls.whole("Pantry", "wordmark");
        getChildren().setAll(wordmark, libraries, Controls.spring(), find, Controls.spring(), jobs, who);
        setAlignment(Pos.CENTER_LEFT);
        getStyleClass().add(Styles.COUNTER);
    }

    private void fillLibraries(MenuButton menu) {
        menu.getItems().clear();
        for (Library library : session.libraries()) {
            CheckMenuItem item = new CheckMenuItem(library.info().name() + "   " + library.root());
            item.setSelected(!session.shelving().off().contains(library.root()));
            item.setOnAction(event -> session.shelving().switchOn(library, item.isSelected()));
            menu.getItems().add(item);
        }
        if (!session.libraries().isEmpty()) {
            menu.getItems().add(new SeparatorMenuItem());
        }
        menu.getItems()
                .addAll(
                        item("Open a library…", folders::openLibrary),
                        item("New library in a folder…", folders::newLibrary),
                        item("Open a project folder…", folders::openProject));
    }

    private static MenuItem item(String text, Runnable action) {
        MenuItem item = new MenuItem(text);
        item.setOnAction(event -> action.run());
        return item;
    }

    private void showJobs() {
        jobs.getChildren().clear();
        if (session.jobs().isEmpty()) {
            return;
        }
        Job job = session.jobs().getFirst();
        Label what = Controls.label("", Styles.FAINT);
        what.setMaxWidth(180);
        int others = session.jobs().size() - 1;
        what.textProperty().bind(job.whatProperty().concat(others > 0 ? "  (+" + others + ")" : ""));
        ProgressBar bar = new ProgressBar();
        bar.setPrefWidth(80);
        bar.progressProperty().bind(job.fractionProperty());
        Button cancel = Controls.button("", "remixal-close-line", "Cancel", job::cancel);
        cancel.getStyleClass().add(Styles.QUIET);
        jobs.getChildren().setAll(what, bar, cancel);
    }
}
