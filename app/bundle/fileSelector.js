// react-dropzone's file-selector brings a table of 1,200 media types (40 kB) to name what the browser has not; what a file is, its bytes tell us.
export const COMMON_MIME_TYPES = new Map();
export const toFileWithPath = (file) => file;
