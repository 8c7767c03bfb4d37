package pantry.desktop.shelves;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.image.Image;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.DataFormat;
import javafx.scene.input.DragEvent;
import javafx.scene.input.Dragboard;
import javafx.scene.input.TransferMode;
import pantry.base.Scratch;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.AssetPictures;

/**
 * Drags assets: within Pantry to a shelf, and out of it as files. The files are written when assets are chosen, so that
 * they are there when the drag begins; another program wants them at once.
 */
final class AssetDrag {
    private static final DataFormat ASSETS = new DataFormat("application/x-pantry-assets");

    /** Heavier ones are handed out by their button, which shows that it takes time. */
    private static final long LIGHT = 400_000;

    private final ShelvesModel model;
    private final LibraryActions actions;
    private final AssetPictures thumbs;
    private final Map<List<IndexedAsset>, List<Path>> written = new HashMap<>();

    AssetDrag(ShelvesModel model, LibraryActions actions, AssetPictures thumbs) {
        this.model = model;
        this.actions = actions;
        this.thumbs = thumbs;
    }

    /** Lets the chosen assets be dragged from a node that shows one. */
    void from(Node node, IndexedAsset item) {
        node.setOnMousePressed(event -> prepare());
        node.setOnDragDetected(event -> {
            if (!model.chosenProperty().get().contains(item)) {
                model.choose(List.of(item), java.util.Optional.of(item));
            }
            List<IndexedAsset> items = model.chosenProperty().get();
            Dragboard board = node.startDragAndDrop(TransferMode.COPY_OR_MOVE);
            ClipboardContent content = new ClipboardContent();
            content.put(ASSETS, items.stream().map(IndexedAsset::folder).collect(Collectors.joining("\n")));
            List<Path> files = written.get(items);
            if (files != null) {
                content.putFiles(files.stream().map(Path::toFile).toList());
            }
            Image picture = thumbs.get(item);
            board.setDragView(picture, picture.getWidth() / 4, picture.getHeight() / 4);
            board.setContent(content);
            event.consume();
        });
    }

    /** Writes the files of what is chosen, where that is soon done. */
    void prepare() {
        List<IndexedAsset> items = model.chosenProperty().get();
        long triangles = items.stream().mapToLong(IndexedAsset::triangles).sum();
        if (items.isEmpty() || items.size() > 20 || triangles > LIGHT || written.containsKey(items)) {
            return;
        }
        try {
            Path place = Scratch.folder("out");
            actions.handOut(items, place, files -> {
                written.clear();
                written.put(items, inFolder(place));
            });
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** All that was written: what belongs to a file stands beside it. */
    private static List<Path> inFolder(Path folder) {
        try (Stream<Path> files = Files.list(folder)) {
            return files.sorted().toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Whether something that is dragged is assets. */
    static boolean holdsAssets(DragEvent event) {
        return event.getDragboard().hasContent(ASSETS);
    }

    /** The assets that are dragged. */
    List<IndexedAsset> dragged(DragEvent event) {
        List<String> folders =
                List.of(String.valueOf(event.getDragboard().getContent(ASSETS)).split("\n"));
        return model.chosenProperty().get().stream()
                .filter(item -> folders.contains(item.folder()))
                .toList();
    }
}
