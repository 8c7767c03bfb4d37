package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.base.Timestamps;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.PublishForm;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Session;
import pantry.library.Library;
import pantry.model.PhysicalMaterial;
import pantry.usecase.HandOut;
import pantry.workbench.Settings;

/** What is asked at the foot of the card before something is done: a note, a format, a shelf. */
final class CardQuestions extends VBox {
    private static final double LONGEST_LIST = 220;
    private static final double LINE_HEIGHT = 38;

    private final ShelvesModel model;
    private final LibraryActions actions;
    private final Session session;
    private final Runnable onAsk;
    private final Runnable onClose;

    private Runnable onceClosed = () -> {};

    /** The folders of the assets that what is asked is about. */
    private List<String> about = List.of();

    /**
     * @param onAsk called when something is asked
     * @param onClose called when it is asked no longer
     */
    CardQuestions(ShelvesModel model, LibraryActions actions, Runnable onAsk, Runnable onClose) {
        super(8);
        this.model = model;
        this.actions = actions;
        this.session = model.session();
        this.onAsk = onAsk;
        this.onClose = onClose;
        getStyleClass().addAll("strip", "asking");
    }

    boolean isAsking() {
        return !getChildren().isEmpty();
    }

    /**
     * A shelf of an open library.
     *
     * @param shelf its path; empty for one that is made
     */
    private record Target(Library library, Optional<String> shelf) {
        @Override
        public String toString() {
            return library.info().name() + " · "
                    + shelf.map(path -> path.replace("/", " / ")).orElse("a new shelf\u2026");
        }
    }

    void editCopy() {
        Settings settings = session.workbench().settings();
        ComboBox<String> format = new Choice<>();
        format.getItems().setAll(HandOut.FORMATS);
        format.setValue(settings.copyFormat());
        TextField program = new TextField(settings.editor());
        program.setId("edit-program");
        program.setPromptText("a program's command, or none");
        HBox.setHgrow(program, Priority.ALWAYS);
        Button go = Controls.button("Choose a folder and unpack…", "", "", () -> {
            String editor = program.getText().strip();
            String copies = format.getValue();
            session.changeSettings(kept -> kept.withEditor(editor).withCopyFormat(copies));
            Ask.of(this, "An empty folder for the copy").folder().ifPresent(folder -> {
                close();
                actions.editCopy(folder, format.getValue());
            });
        });
        go.getStyleClass().add(Styles.PRIMARY);
        open(
                "Edit a copy",
                Controls.wrapped(
                        "The version is unpacked as a file, and the asset is reserved for you. Once the file is saved,"
                                + " the card offers to publish it.",
                        Styles.FAINT),
                row("as", format),
                row("in", program),
                go);
    }

    private static HBox row(String name, Node field) {
        Label label = Controls.label(name, Styles.FAINT);
        label.setMinWidth(36);
        HBox row = new HBox(6, label, field);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    /** Asks why an asset is taken over from somebody. */
    void takeOver(String from) {
        TextField why = new TextField();
        why.setId("take-over-why");
        why.setPromptText("why, for " + from + " and the journal");
        Button take = Controls.button("Take it over", "", "Undo gives it back", () -> {
            close();
            actions.takeOver(why.getText().strip());
        });
        take.setId("take-over");
        take.getStyleClass().add(Styles.PRIMARY);
        take.disableProperty().bind(why.textProperty().isEmpty());
        why.setOnAction(event -> take.fire());
        open(
                "Take it over from " + from,
                Controls.wrapped("What " + from + " has not published yet is not in the library.", Styles.FAINT),
                why,
                take);
        why.requestFocus();
    }

    /** Asks for the note that a version needs. */
    void ask(String title, PublishForm.Publishing publishing) {
        PublishForm form =
                new PublishForm(session, model.selectedProperty().get().map(IndexedAsset::id), "", (note, status) -> {
                    close();
                    publishing.publish(note, status);
                });
        open(title, form);
        form.enter();
    }

    /** Asks which part is mixed into the material whose card is shown, how much of it shows, and for a note. */
    void mix() {
        model.card().detailsProperty().get().ifPresent(details -> {
            MixModel mixing = new MixModel(session, details, model.card());
            MixForm form = new MixForm(mixing, session, (note, status) -> {
                MixModel.Wish wish = mixing.wishProperty().get().orElseThrow();
                close();
                actions.mix(wish.change(), note, status);
            });
            open("Mix a part into " + details.item().name(), form);
            onceClosed = mixing::end;
            form.enter();
        });
    }

    /** Asks for the friction, bounce and density of the asset whose card is shown, and for a note. */
    void physics() {
        model.card().detailsProperty().get().ifPresent(details -> {
            PhysicsModel physics = new PhysicsModel(details.unseen().physics());
            PhysicsForm form = new PhysicsForm(physics, details.item().id(), session, (note, status) -> {
                PhysicalMaterial wish = physics.wishProperty().get().orElseThrow();
                close();
                actions.changePhysics(wish, note, status);
            });
            open("Friction, bounce and density", form);
            form.enter();
        });
    }

    void publishFile() {
        Ask.of(this, "The file of the next version").file().ifPresent(this::publish);
    }

    /** Publishes a file as the next version of the asset, once a note is given. */
    void publish(Path file) {
        ask("Publish " + file.getFileName(), (note, status) -> actions.publish(file, note, status));
    }

    /** Lets the chosen assets be moved or copied to a shelf that is picked from a list, or written. */
    void moveTo() {
        List<IndexedAsset> items = model.chosenProperty().get();
        if (items.isEmpty()) {
            return;
        }
        ComboBox<Target> target = new Choice<>();
        target.setId("move-target");
        target.setMaxWidth(Double.MAX_VALUE);
        target.setPromptText("to a shelf");
        for (Library library : session.shelving().present()) {
            if (library.writable()) {
                model.shelves(library.root())
                        .forEach(shelf -> target.getItems().add(new Target(library, Optional.of(shelf.path()))));
                target.getItems().add(new Target(library, Optional.empty()));
            }
        }
        TextField fresh = new TextField();
        fresh.setId("move-new-shelf");
        fresh.setPromptText("the new shelf, such as Site/Stores");
        Controls.showOnly(fresh, false);
        target.valueProperty()
                .addListener((property, before, now) ->
                        Controls.showOnly(fresh, now != null && now.shelf().isEmpty()));
        // Not before: letters that still choose in the list are no part of the name.
        target.setOnHidden(event -> {
            if (fresh.isVisible()) {
                fresh.requestFocus();
            }
        });
        Supplier<String> shelf =
                () -> target.getValue().shelf().orElseGet(() -> fresh.getText().strip());
        Button move = Controls.button("Move", "", "Ids and versions stay; signposts stand where they were", () -> {
            close();
            actions.move(items, target.getValue().library().root(), shelf.get());
        });
        move.setId("move-go");
        move.getStyleClass().add(Styles.PRIMARY);
        Button copy = Controls.button("Copy", "", "Copies get ids of their own", () -> {
            close();
            actions.copy(items, target.getValue().library().root(), shelf.get());
        });
        copy.setId("copy-go");
        for (Button button : List.of(move, copy)) {
            button.disableProperty()
                    .bind(Bindings.createBooleanBinding(
                            () -> target.getValue() == null || shelf.get().isEmpty(),
                            target.valueProperty(),
                            fresh.textProperty()));
        }
        open(
                "Move or copy " + (items.size() == 1 ? items.getFirst().name() : items.size() + " assets"),
                target,
                fresh,
                new HBox(6, move, copy));
        target.requestFocus();
    }

    void handOut() {
        Settings settings = session.workbench().settings();
        ComboBox<String> format = new Choice<>();
        format.getItems().setAll(HandOut.FORMATS);
        format.setValue(settings.handOutFormat());
        format.setOnAction(event -> {
            String chosen = format.getValue();
            session.changeSettings(kept -> kept.withHandOutFormat(chosen));
        });
        Button go = Controls.button("Choose a folder…", "", "", () -> {
            Ask.of(this, "Where the files are to go").folder().ifPresent(folder -> {
                close();
                actions.handOut(model.chosenProperty().get(), folder, files -> {
                    String what = files.size() == 1 ? "1 file" : files.size() + " files";
                    session.told("handed out " + what + " to " + folder);
                    tellWhatIsLeft(files);
                });
            });
        });
        go.getStyleClass().add(Styles.PRIMARY);
        open(
                "Hand out as files",
                Controls.wrapped(
                        "Assets that are dragged out of Pantry onto another program or folder are handed out in this"
                                + " format too.",
                        Styles.FAINT),
                row("as", format),
                go);
    }

    /** What the files cannot hold of the assets, asset by asset. */
    private void tellWhatIsLeft(List<HandOut.HandedOut> files) {
        VBox lines = new VBox(4);
        for (HandOut.HandedOut file : files) {
            for (String line : file.left()) {
                String of = files.size() == 1 ? "" : file.file().getFileName() + ": ";
                lines.getChildren().add(Controls.wrapped(of + line));
            }
        }
        if (!lines.getChildren().isEmpty()) {
            ScrollPane scrolled = Controls.scrolling(lines);
            scrolled.setMinHeight(
                    Math.min(LONGEST_LIST, LINE_HEIGHT * lines.getChildren().size()));
            scrolled.setMaxHeight(LONGEST_LIST);
            open("What these files cannot hold", scrolled);
        }
    }

    void tellStory() {
        model.card().tellStory(entries -> {
            VBox lines = new VBox(4);
            entries.stream().limit(60).forEach(entry -> {
                String changed = entry.changes().isEmpty()
                        ? ""
                        : ": "
                                + String.join(
                                        ", ",
                                        new java.util.TreeSet<>(entry.changes().keySet()));
                lines.getChildren()
                        .add(Controls.wrapped(Timestamps.minutes(entry.when()) + "  " + entry.who() + "  "
                                + entry.what() + changed
                                + (entry.version().isEmpty() ? "" : " " + entry.version())
                                + (entry.from().isEmpty() ? "" : " from " + entry.from())
                                + (entry.note().isEmpty() ? "" : " “" + entry.note() + "”")));
            });
            ScrollPane all = Controls.scrolling(lines);
            all.setPrefHeight(240);
            open("What happened to it", all);
        });
    }

    private void open(String title, Node... content) {
        ended();
        Button close = Controls.button("", "remixal-close-line", "Leave it", this::close);
        close.getStyleClass().add(Styles.QUIET);
        HBox head = new HBox(8, Controls.label(title, Styles.SECTION), Controls.spring(), close);
        head.setAlignment(Pos.CENTER_LEFT);
        getChildren().setAll(head);
        getChildren().addAll(content);
        about = folders(model.chosenProperty().get());
        onAsk.run();
    }

    private static List<String> folders(List<IndexedAsset> items) {
        return items.stream().map(IndexedAsset::folder).toList();
    }

    /** No longer asks where others are chosen by now than those that it was about. */
    void closeUnlessOf(List<IndexedAsset> chosen) {
        if (!about.equals(folders(chosen))) {
            getChildren().clear();
            ended();
        }
    }

    void close() {
        if (!getChildren().isEmpty()) {
            getChildren().clear();
            ended();
            onClose.run();
        }
    }

    private void ended() {
        Runnable end = onceClosed;
        onceClosed = () -> {};
        end.run();
    }
}
