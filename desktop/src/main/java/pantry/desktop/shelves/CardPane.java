package pantry.desktop.shelves;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Hyperlink;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextInputControl;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.base.Timestamps;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WhileShown;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.SearchScope;
import pantry.desktop.session.Session;
import pantry.desktop.session.Units;
import pantry.desktop.view3d.View3d;
import pantry.desktop.workplace.Request;
import pantry.library.AssetKind;
import pantry.library.Reservation;
import pantry.library.VersionStatus;
import pantry.model.Facts;
import pantry.usecase.ChangePhysics;
import pantry.usecase.WorkingCopy;

/** The card at the right: of one asset, or what can be done with many. */
final class CardPane extends BorderPane {
    /** So many kinds of what is in a file and not understood are named. */
    private static final int BESIDES = 5;

    private static final Duration LOOK = Duration.seconds(2);

    private final ShelvesModel model;
    private final LibraryActions actions;
    private final Session session;
    private final PreviewBox preview;
    private final VersionStrip versions;
    private final CardForm form;
    private final UsedIn usedIn;
    private final VBox box = new VBox(16);
    private final ScrollPane scroll = Controls.scrolling(box);
    private final CardQuestions questions;
    private Consumer<IndexedAsset> onPlace = item -> {};
    private Optional<String> shown = Optional.empty();

    private final SkeletonPane skeleton;
    private final VBox inMotion = new VBox();
    private Consumer<Request> onRequest = request -> {};

    /** The ids of the assets that the card was filled for. */
    private List<String> filledFor = List.of();

    /** Whether there is something new to show that waits for somebody who writes. */
    private boolean waiting;

    /** The folders of the several assets that the form is filled for. */
    private List<String> together = List.of();

    CardPane(ShelvesModel model, LibraryActions actions, AssetPictures thumbs) {
        this.model = model;
        this.actions = actions;
        this.session = model.session();
        this.preview = new PreviewBox(model);
        this.questions = new CardQuestions(model, actions, this::showQuestions, this::show);
        this.versions = new VersionStrip(model, actions, thumbs, questions);
        this.form = new CardForm(model, actions);
        this.skeleton = new SkeletonPane(new SkeletonModel(session, model.card()), thumbs, this::goTo);
        this.usedIn = new UsedIn(session.sceneThumbnails());
        getStyleClass().addAll(Styles.PANEL, "right");
        Controls.width(this, 21.5, 25.4);
        box.getStyleClass().add("slip");
        model.card().detailsProperty().addListener(change -> show());
        model.card().favouritesProperty().addListener(change -> show());
        model.chosenProperty().addListener(change -> show());
        model.search().items().addListener((javafx.beans.InvalidationListener) change -> show());
        actions.copies().addListener((javafx.beans.InvalidationListener) change -> show());
        actions.saved().addListener((javafx.beans.InvalidationListener) change -> show());
        WhileShown.every(this, LOOK, () -> {
            if (!actions.copies().isEmpty()) {
                actions.lookAtCopies();
            }
            model.card().lookAtReservation();
            if (waiting) {
                show();
            }
        });
        model.card().reachProperty().addListener(change -> showReach());
        showReach();
        show();
    }

    /** How much room it takes over all its motions, beside how large it is at rest. */
    private void showReach() {
        Optional<Box3> reach = model.card().reachProperty().get();
        inMotion.getChildren().clear();
        reach.map(Box3::size).ifPresent(size -> inMotion.getChildren()
                .add(Controls.fact("in motion up to", Units.size(size.x(), size.y(), size.z()))));
        Controls.showOnly(inMotion, reach.isPresent());
    }

    void setOnPlace(Consumer<IndexedAsset> action) {
        onPlace = action;
    }

    /** Called when something else is asked for than the card shows. */
    void setOnRequest(Consumer<Request> action) {
        onRequest = action;
        usedIn.setOnRequest(action);
    }

    View3d view() {
        return preview.view();
    }

    /** What is asked at the foot of the card before something is done. */
    CardQuestions questions() {
        return questions;
    }

    private void showQuestions() {
        setBottom(new VBox(questions));
    }

    /** Shows what is known now; where somebody writes in a field, once that is done. */
    private void show() {
        List<String> asked =
                model.chosenProperty().get().stream().map(IndexedAsset::id).toList();
        waiting = asked.equals(filledFor) && isWriting();
        if (!waiting) {
            boolean same = asked.equals(filledFor);
            filledFor = asked;
            keepingFocus(() -> keepingNew(same, this::showChosen));
        }
    }

    /** Whether a field of the card has the keys and says something that is not taken over yet. */
    private boolean isWriting() {
        return getScene() != null
                && getScene().getFocusOwner() instanceof TextInputControl field
                && Controls.isWithin(field, this)
                && CardForm.isWritten(field);
    }

    /** What is written in fields for something new is there afterwards, where the card is of the same assets. */
    private void keepingNew(boolean same, Runnable showing) {
        Map<String, String> texts = new HashMap<>();
        for (String id : CardForm.NEW) {
            if (same && lookup("#" + id) instanceof TextInputControl field) {
                texts.put(id, field.getText());
            }
        }
        showing.run();
        texts.forEach((id, text) -> {
            if (lookup("#" + id) instanceof TextInputControl field) {
                field.setText(text);
            }
        });
    }

    private void showChosen() {
        List<IndexedAsset> chosen = model.chosenProperty().get();
        questions.closeUnlessOf(chosen);
        if (chosen.size() < 2) {
            together = List.of();
        }
        Optional<CardModel.Details> details = model.card().detailsProperty().get();
        if (chosen.size() > 1) {
            showMany(chosen);
        } else if (details.isPresent()) {
            showOne(details.get());
        } else {
            shown = Optional.empty();
            setTop(head(Controls.label("Card", Styles.TITLE)));
            box.getChildren().setAll(new SummaryPane(model));
            setCenter(scroll);
            setBottom(null);
        }
    }

    /** What was changed in one field must not take the next one from under the writer. */
    private void keepingFocus(Runnable showing) {
        Node focused = getScene() == null ? null : getScene().getFocusOwner();
        String id = focused == null || !Controls.isWithin(focused, this) ? null : focused.getId();
        showing.run();
        if (id != null) {
            Node again = lookup("#" + id);
            if (again != null) {
                again.requestFocus();
                if (focused instanceof TextInputControl before && again instanceof TextInputControl now) {
                    now.positionCaret(Math.min(before.getCaretPosition(), now.getLength()));
                }
            }
        }
    }

    private static HBox head(Node... nodes) {
        HBox head = new HBox(8, nodes);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        return head;
    }

    private void showMany(List<IndexedAsset> chosen) {
        shown = Optional.empty();
        setTop(head(Controls.label(chosen.size() + " assets", Styles.TITLE)));
        long triangles = chosen.stream().mapToLong(IndexedAsset::triangles).sum();
        VBox facts = new VBox(
                4,
                Controls.fact("triangles together", Units.count(triangles)),
                Controls.fact(
                        "shelves",
                        Units.count(chosen.stream()
                                .map(IndexedAsset::shelf)
                                .distinct()
                                .count())));
        boolean writable = isWritable(chosen);
        List<String> folders = chosen.stream().map(IndexedAsset::folder).toList();
        if (!folders.equals(together)) {
            // What the form says is of others.
            box.getChildren().setAll(Controls.section("Together", facts));
        }
        setCenter(scroll);
        setBottom(buttons(chosen, writable));
        model.card().several(chosen, cards -> {
            if (chosen.equals(model.chosenProperty().get())) {
                together = folders;
                keepingFocus(() -> {
                    form.show(chosen, cards, List.of(), writable);
                    box.getChildren().setAll(Controls.section("Together", facts), form.tags(), form);
                });
            }
        });
    }

    private void showOne(CardModel.Details details) {
        IndexedAsset item = details.item();
        boolean favourite = model.isFavourite(item);
        Label name = Controls.label(details.asset().card().name(), Styles.TITLE);
        name.setMinWidth(40);
        Controls.hint(name, details.asset().card().name());
        Button star = Controls.button(
                "",
                favourite ? "remixmz-star-fill" : "remixmz-star-line",
                favouriting(favourite, true),
                model::toggleFavourites);
        star.setId("card-favourite");
        star.getStyleClass().add(Styles.QUIET);
        setTop(head(name, Controls.spring(), star));
        preview.show(details);
        versions.show(details);
        boolean writable = details.library().writable();
        form.show(
                List.of(item), List.of(details.asset().card()), details.facts().materials(), writable);
        box.getChildren().clear();
        copyOf(details).ifPresent(copy -> box.getChildren().add(copyNote(copy)));
        if (!details.behind().isEmpty()) {
            box.getChildren().add(behindNote(details));
        }
        if (details.asset().status(details.version()) == VersionStatus.RETIRED) {
            Label retired = Controls.wrapped(details.version() + " is retired: it is not to be used any more.");
            VBox note = new VBox(retired);
            note.getStyleClass().addAll("note-box", "wrong");
            box.getChildren().add(note);
        }
        box.getChildren()
                .addAll(
                        Controls.section("Facts", facts(details)),
                        skeleton,
                        form.tags(),
                        Controls.section("Versions", versions, reservation(details, writable)),
                        form);
        if (!details.unseen().attached().isEmpty()) {
            box.getChildren().add(new AttachedPane(details.unseen().attached()));
        }
        relation("Made of", details.uses()).ifPresent(box.getChildren()::add);
        relation("Used by", details.usedBy()).ifPresent(box.getChildren()::add);
        usedIn.show(details);
        if (details.usedIn().isPresent()) {
            box.getChildren().add(usedIn);
        }
        if (!shown.equals(Optional.of(item.folder()))) {
            shown = Optional.of(item.folder());
            scroll.setVvalue(0);
        }
        VBox whole = new VBox(preview, scroll);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        setCenter(whole);
        setBottom(buttons(List.of(item), writable));
    }

    private VBox facts(CardModel.Details details) {
        VBox facts = new VBox(4, Controls.fact("shelf", details.asset().shelf().replace("/", " / ")));
        if (details.facts().triangles() + details.facts().bones() > 0) {
            // The ball that shows a material or a sky has no size that matters.
            Vec3 size = details.facts().bounds().size();
            facts.getChildren().addAll(Controls.fact("size", Units.size(size.x(), size.y(), size.z())), inMotion);
        }
        if (details.asset().card().kind() != AssetKind.MOTION) {
            facts.getChildren().addAll(surfaces(details.facts()));
        }
        if (details.facts().bones() > 0) {
            facts.getChildren()
                    .add(Controls.fact("bones", Units.count(details.facts().bones())));
        }
        details.facts().besides(BESIDES).ifPresent(told -> facts.getChildren()
                .add(Controls.wrapped("In the file besides: " + told, Styles.FAINT)));
        details.facts().motions().forEach(motion -> facts.getChildren()
                .add(Controls.fact("motion " + motion.name(), String.format(Locale.ROOT, "%.2f s", motion.seconds()))));
        for (String strands : details.facts().strands()) {
            facts.getChildren().add(Controls.fact("shown are", strands));
        }
        if (!details.facts().shapes().isEmpty()) {
            facts.getChildren()
                    .addAll(
                            Controls.fact(
                                    "blend shapes",
                                    Units.count(details.facts().shapes().size())),
                            Controls.wrapped(String.join(", ", details.facts().shapes()), Styles.FAINT));
        }
        details.unseen().physics().stream()
                .filter(material -> !material.isEmpty())
                .forEach(material -> facts.getChildren().add(Controls.wrapped(material.words(), Styles.FAINT)));
        if (details.facts().lights() > 0) {
            facts.getChildren()
                    .add(Controls.fact("lights", Units.count(details.facts().lights())));
        }
        return facts;
    }

    /** What is told of what is drawn; of a motion, that only shows its bones. */
    private static List<Node> surfaces(Facts facts) {
        List<Node> told = new ArrayList<>();
        if (facts.triangles() > 0) {
            told.add(Controls.fact("triangles", Units.count(facts.triangles())));
            told.add(Controls.fact("objects", Units.count(facts.meshes())));
        }
        told.add(Controls.fact("textures", Units.count(facts.textures().size())));
        told.add(Controls.fact("materials", Units.count(facts.materials().size())));
        if (!facts.materials().isEmpty()) {
            told.add(Controls.wrapped(
                    facts.materials().stream().map(Facts.MaterialFact::words).collect(Collectors.joining(", ")),
                    Styles.FAINT));
        }
        return told;
    }

    /** Who holds the asset, and the button that changes that. */
    private HBox reservation(CardModel.Details details, boolean writable) {
        HBox line = new HBox(8);
        line.setAlignment(Pos.CENTER_LEFT);
        Optional<Reservation> held = details.reservation();
        if (held.isEmpty()) {
            Button reserve = small("Reserve", "So that nobody else publishes it meanwhile", actions::reserve);
            reserve.setId("card-reserve");
            reserve.setDisable(!writable);
            line.getChildren().addAll(Controls.label("Free to edit", Styles.FAINT), Controls.spring(), reserve);
            return line;
        }
        boolean mine = held.get().who().equals(session.workbench().who());
        Label who = Controls.label(
                "Reserved by " + (mine ? "you" : held.get().who()) + " since "
                        + Timestamps.minutes(held.get().since()),
                Styles.CAUTION);
        Controls.hint(who, "From " + held.get().host());
        who.setMinWidth(60);
        Button button = mine
                ? small("Release", "Give it free again", actions::release)
                : small(
                        "Take over…",
                        "Hold it instead; the journal keeps of whom it was taken, and why",
                        () -> questions.takeOver(held.get().who()));
        button.setId("card-release");
        line.getChildren().addAll(new FontIcon("remixal-lock-line"), who, Controls.spring(), button);
        return line;
    }

    private static Button small(String text, String hint, Runnable action) {
        Button button = Controls.button(text, "", hint, action);
        button.getStyleClass().add("small");
        return button;
    }

    private Optional<VBox> relation(String title, List<IndexedAsset> items) {
        if (items.isEmpty()) {
            return Optional.empty();
        }
        VBox list = new VBox(2);
        for (IndexedAsset item : items) {
            Hyperlink link = new Hyperlink(item.name());
            link.setOnAction(event -> goTo(item));
            list.getChildren().add(link);
        }
        return Optional.of(Controls.section(title, list));
    }

    private void goTo(IndexedAsset item) {
        model.search().scopeProperty().set(new SearchScope.All());
        model.search().wordsProperty().set("");
        model.choose(List.of(item), Optional.of(item));
    }

    // Edited copies

    private Optional<WorkingCopy> copyOf(CardModel.Details details) {
        return actions.copies().stream()
                .filter(copy -> copy.asset().equals(details.asset().card().id()))
                .findFirst();
    }

    /** That materials still show what a part was before. */
    private VBox behindNote(CardModel.Details details) {
        String names = details.behind().stream()
                .map(asset -> asset.card().name())
                .collect(java.util.stream.Collectors.joining(", "));
        Button remake = small(
                details.behind().size() == 1 ? "Make it anew" : "Make them anew",
                "Each gets a next version, with what this part is now",
                actions::remake);
        remake.setId("card-remake");
        remake.setDisable(!details.library().writable());
        VBox note = new VBox(
                6,
                Controls.wrapped(names + (details.behind().size() == 1 ? " was" : " were") + " made before "
                        + details.asset().ready().orElse("this version") + " of this part."),
                remake);
        note.getStyleClass().addAll("note-box", "info");
        return note;
    }

    private VBox copyNote(WorkingCopy copy) {
        boolean saved = actions.saved().contains(copy);
        VBox note = new VBox(
                6,
                Controls.wrapped(
                        saved
                                ? "The copy of " + copy.base() + " was saved. Publish it as the next version?"
                                : "A copy of " + copy.base() + " is being edited: " + copy.file()));
        Button publish = small(
                "Publish the copy…",
                "",
                () -> questions.ask(
                        "Publish the edited copy", (text, status) -> actions.publishCopy(copy, text, status)));
        publish.setId("card-publish-copy");
        publish.setDisable(!saved);
        note.getChildren()
                .add(new HBox(
                        6,
                        publish,
                        small("Give it up", "The asset is free again; the file stays", () -> actions.giveUp(copy))));
        note.getStyleClass().addAll("note-box", saved ? "good" : "info");
        return note;
    }

    // What can be done

    private Node buttons(List<IndexedAsset> items, boolean writable) {
        if (questions.isAsking()) {
            return new VBox(questions);
        }
        HBox buttons = new HBox(6);
        buttons.getStyleClass().add("strip");
        buttons.setAlignment(Pos.CENTER_LEFT);
        if (items.size() == 1 && isMaterial(items)) {
            Label how = Controls.wrapped("Given to parts in a scene", Styles.FAINT);
            how.setId("card-material");
            HBox.setHgrow(how, Priority.ALWAYS);
            Button mix = Controls.button(
                    "Mix in…", "", "Put a material part, such as rust, over this material", questions::mix);
            mix.setId("card-mix");
            mix.setDisable(!writable);
            buttons.getChildren().addAll(how, mix);
        } else if (items.size() == 1 && isPart(items)) {
            Label how = Controls.wrapped("Mixed into materials, on their cards", Styles.FAINT);
            HBox.setHgrow(how, Priority.ALWAYS);
            buttons.getChildren().add(how);
        } else if (items.size() == 1 && isMotion(items)) {
            Label how = Controls.wrapped("Done by figures, in scenes", Styles.FAINT);
            HBox.setHgrow(how, Priority.ALWAYS);
            buttons.getChildren().add(how);
        } else if (items.size() == 1) {
            Button place = Controls.button(
                    "Place in the scene", "remixmz-map-pin-add-line", "", () -> onPlace.accept(items.getFirst()));
            place.setId("card-place");
            place.getStyleClass().add(Styles.PRIMARY);
            buttons.getChildren().add(place);
        }
        MenuButton more = new MenuButton("More");
        more.setId("card-more");
        more.setMinWidth(USE_PREF_SIZE);
        more.getItems().setAll(furtherActions(items, writable));
        buttons.getChildren().addAll(Controls.spring(), more);
        return buttons;
    }

    /** What can be done with what is chosen, the less frequent as well. */
    private List<MenuItem> furtherActions(List<IndexedAsset> items, boolean writable) {
        List<MenuItem> actionsOf = new ArrayList<>();
        if (items.size() == 1) {
            actionsOf.add(item("Edit a copy…", questions::editCopy, writable));
            actionsOf.add(item("Inspect in Prep (Ctrl+I)", () -> inspect(items.getFirst()), true));
            if (touches(items.getFirst())) {
                actionsOf.add(item("Friction, bounce and density…", questions::physics, writable));
            }
            actionsOf.add(item("Publish a file as its next version…", questions::publishFile, writable));
            actionsOf.add(item("Like this one: similar shapes", model::showAlike, true));
            actionsOf.add(item("What happened to it", questions::tellStory, true));
        }
        actionsOf.add(item("Hand out as files…", questions::handOut, true));
        actionsOf.add(item("Move or copy to a shelf…", questions::moveTo, true));
        actionsOf.add(item("Put into the trash (Delete)", () -> actions.discard(items), writable));
        return actionsOf;
    }

    /** All that can be done with what is chosen, for a menu where it stands; empty where nothing is chosen. */
    List<MenuItem> actionsOfChosen() {
        List<IndexedAsset> items = model.chosenProperty().get();
        if (items.isEmpty()) {
            return List.of();
        }
        List<MenuItem> all = new ArrayList<>();
        if (items.size() == 1 && isMaterial(items)) {
            all.add(item("Mix a part in…", questions::mix, isWritable(items)));
        } else if (items.size() == 1 && !isPart(items) && !isMotion(items)) {
            all.add(item("Place in the scene", () -> onPlace.accept(items.getFirst()), true));
        }
        all.add(item(
                favouriting(items.stream().allMatch(model::isFavourite), items.size() == 1),
                model::toggleFavourites,
                true));
        all.add(new SeparatorMenuItem());
        all.addAll(furtherActions(items, isWritable(items)));
        return all;
    }

    private static String favouriting(boolean already, boolean one) {
        if (one) {
            return already ? "No longer a favourite (F)" : "Make it a favourite (F)";
        }
        return already ? "No longer favourites (F)" : "Make them favourites (F)";
    }

    private static boolean isMaterial(List<IndexedAsset> items) {
        return items.stream().allMatch(item -> item.kind().equals(AssetKind.MATERIAL.word()));
    }

    private static boolean isPart(List<IndexedAsset> items) {
        return items.stream().allMatch(item -> item.kind().equals(AssetKind.MATERIAL_PART.word()));
    }

    private static boolean isMotion(List<IndexedAsset> items) {
        return items.stream().allMatch(item -> item.kind().equals(AssetKind.MOTION.word()));
    }

    private static boolean touches(IndexedAsset item) {
        return Stream.of(AssetKind.values())
                .anyMatch(kind -> ChangePhysics.isFor(kind) && item.kind().equals(kind.word()));
    }

    private boolean isWritable(List<IndexedAsset> items) {
        return items.stream()
                .allMatch(item -> session.shelving().at(item.library()).writable());
    }

    private void inspect(IndexedAsset item) {
        session.attempt(() ->
                onRequest.accept(new Request.InspectAsset(session.shelving().at(item.library()), item)));
    }

    private static MenuItem item(String text, Runnable action, boolean possible) {
        MenuItem item = new MenuItem(text);
        item.setOnAction(event -> action.run());
        item.setDisable(!possible);
        return item;
    }
}
