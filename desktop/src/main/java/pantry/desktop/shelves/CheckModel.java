package pantry.desktop.shelves;

import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.Progress;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.Session;
import pantry.library.Library;
import pantry.library.Repair;
import pantry.library.TrashItem;
import pantry.usecase.CheckLibrary;

/** The check of a library: what is wrong in it and what can be done about that; and its trash. */
public final class CheckModel {
    private final Session session;
    private final ReadOnlyObjectWrapper<Optional<Checked>> checked = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObservableList<TrashItem> trash = FXCollections.observableArrayList();

    /** What a check found. */
    public record Checked(Library library, CheckLibrary.Result result) {}

    public CheckModel(Session session) {
        this.session = session;
    }

    /** What the last check found; empty before one, and once it is left. */
    public ReadOnlyObjectProperty<Optional<Checked>> checkedProperty() {
        return checked.getReadOnlyProperty();
    }

    /** What lies in the trash of the checked library. */
    public ObservableList<TrashItem> trash() {
        return trash;
    }

    /** Checks a library. */
    public void check(Library library) {
        session.run(
                "checking " + library.info().name(),
                progress -> new Checked(library, new CheckLibrary(library).run(progress)),
                result -> {
                    checked.set(Optional.of(result));
                    readTrash();
                });
    }

    /** Looks at the trash once more. */
    public void readTrash() {
        checked.get()
                .ifPresent(now -> session.quietly(
                        "looking into the trash",
                        progress -> now.library().trash().items(),
                        trash::setAll));
    }

    /** Puts a problem right, and checks once more. */
    public void repair(CheckLibrary.Finding finding, Repair repair) {
        checked.get().ifPresent(now -> session.shelving()
                .change(
                        repair.words(),
                        Libraries.Touched.all(now.library()),
                        progress -> {
                            repair.action().run();
                            return repair;
                        },
                        done -> {
                            session.doneForGood(
                                    finding.problem().path().getFileName() + ": " + done.words(),
                                    "the library would be out of order again");
                            check(now.library());
                        },
                        problem -> {
                            session.wrong(problem);
                            check(now.library());
                        }));
    }

    /** Deletes all that lies in the trash for good. */
    public void emptyTrash() {
        checked.get()
                .ifPresent(now -> session.run(
                        "emptying the trash",
                        progress -> {
                            List<TrashItem> items = now.library().trash().items();
                            now.library().trash().delete(items);
                            return items.size();
                        },
                        count -> {
                            session.doneForGood(
                                    "deleted " + count + " things in the trash for good",
                                    "what is deleted for good does not come back");
                            readTrash();
                        }));
    }

    /** Brings a library to the newest format, or back. */
    public void upgrade(Library library, boolean back) {
        session.run(
                back ? "bringing back" : "upgrading",
                progress -> back ? library.downgrade(Progress.NONE) : library.upgrade(progress),
                now -> {
                    session.told(now.info().name() + " has format " + now.info().format() + " now");
                    session.openLibrary(now.root());
                });
    }

    public void leave() {
        checked.set(Optional.empty());
    }
}
