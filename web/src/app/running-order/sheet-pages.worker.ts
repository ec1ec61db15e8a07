// What takes PDF documents apart, off the main thread.
import 'pdfjs-dist/build/pdf.worker.min.mjs';
